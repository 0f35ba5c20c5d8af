<script setup lang="ts">
import { ElColorPicker } from 'element-plus';
import 'element-plus/es/components/color-picker/style/css';

// A colour, chosen on a field of hues or typed.

defineProps<{ label: string; modelValue: string; offered?: readonly string[] }>();
const emit = defineEmits<{ pick: [colour: string] }>();

function pick(colour: unknown): void {
  if (typeof colour === 'string' && /^#[0-9a-f]{6}$/i.test(colour)) emit('pick', colour.toUpperCase());
}
</script>

<template>
  <ElColorPicker
    :model-value="modelValue"
    :aria-label="label"
    :predefine="[...(offered ?? [])]"
    :clearable="false"
    size="small"
    append-to="#overlays"
    color-format="hex"
    @change="pick"
    @keydown.stop
  />
</template>
