<script setup lang="ts">
import { onBeforeUnmount, ref, watch } from 'vue';

// The small picture of a take.

const props = defineProps<{ picture: Blob | undefined }>();
const address = ref<string | null>(null);

function release(): void {
  if (address.value) URL.revokeObjectURL(address.value);
}
watch(
  () => props.picture,
  (picture) => {
    release();
    address.value = picture ? URL.createObjectURL(picture) : null;
  },
  { immediate: true },
);
onBeforeUnmount(release);
</script>

<template>
  <img v-if="address" :src="address" alt="" width="45" height="32" />
  <i v-else aria-hidden="true" />
</template>

<style scoped>
img,
i {
  width: 45px;
  height: 32px;
  flex: none;
  object-fit: cover;
  border-radius: 3px;
  background: var(--ground);
}
i {
  border: 1px dashed var(--mark);
  background: none;
}
</style>
