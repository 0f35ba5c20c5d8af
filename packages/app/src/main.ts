import '@fontsource-variable/hanken-grotesk/wght.css';
import { createPinia } from 'pinia';
import { createApp } from 'vue';
import App from './App.vue';
import { router } from './router';
import './theme/tokens.css';
import './theme/base.css';

createApp(App).use(createPinia()).use(router).mount('#app');
