<script setup lang="ts">
import { pictureValues, shapeMesh } from '@lumbra/core';
import { ref } from 'vue';
import { useDocumentStore } from '../../session/document';
import { errorText, useNoticeStore } from '../../stores/notice';
import { useSelectionStore } from '../../stores/selection';
import { readPicture } from './readPicture';
import { vTip } from '../../fields/tip';

// Asks for a picture, and gives its brightness at the points of the selected cloth.

defineProps<{ label: string; title: string }>();
const emit = defineEmits<{ read: [picture: { name: string; values: Float32Array }] }>();
const document = useDocumentStore();
const selection = useSelectionStore();
const notice = useNoticeStore();
const input = ref<HTMLInputElement | null>(null);

async function take(): Promise<void> {
  const file = input.value!.files?.[0];
  const cloth = selection.cloth;
  input.value!.value = '';
  if (!file || !cloth) return;
  try {
    const values = pictureValues(shapeMesh(cloth.shape, document.assets), await readPicture(file));
    emit('read', { name: file.name.replace(/\.[^.]+$/, '').slice(0, 100) || 'Picture', values });
  } catch (error) {
    notice.problem(errorText(error));
  }
}
</script>

<template>
  <button v-tip="title" type="button" class="choice" @click="input?.click()">{{ label }}</button>
  <input ref="input" type="file" accept="image/*" hidden :aria-label="title" @change="take" />
</template>
