<script setup lang="ts">
import { ElConfigProvider } from 'element-plus';
import en from 'element-plus/es/locale/lang/en';
import { useThemeStore } from './stores/theme';

useThemeStore();
</script>

<template>
  <ElConfigProvider :locale="en">
    <RouterView v-slot="{ Component, route }">
      <component :is="Component" :key="route.fullPath" />
    </RouterView>
  </ElConfigProvider>
</template>
