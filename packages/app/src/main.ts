import '@fontsource-variable/hanken-grotesk/wght.css';
import { createPinia } from 'pinia';
import { createApp } from 'vue';
import App from './App.vue';
import { router } from './router';
import { tellFaults } from './stores/faults';
import './theme/tokens.css';
import './theme/base.css';
import './theme/element.css';

const app = createApp(App).use(createPinia()).use(router);
tellFaults(app);
app.mount('#app');
