<script setup lang="ts">
import { ElConfigProvider } from 'element-plus';
import en from 'element-plus/es/locale/lang/en';
import TipHost from './fields/TipHost.vue';
import { useSafeLeaving } from './session/leaving';
import { useThemeStore } from './stores/theme';

useThemeStore();
useSafeLeaving();
</script>

<template>
  <ElConfigProvider :locale="en">
    <RouterView v-slot="{ Component, route }">
      <component :is="Component" :key="route.fullPath" />
    </RouterView>
    <TipHost />
    <!-- Where lists and questions are drawn that lie over the page. -->
    <aside id="overlays" aria-label="Lists and questions" />
  </ElConfigProvider>
</template>
