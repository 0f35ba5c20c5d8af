<script setup lang="ts">
import { clipSeconds, formatQuantity, type Clip, type Thing, type ThingMotion } from '@lumbra/core';
import { computed } from 'vue';
import InlineNumber from '../../fields/InlineNumber.vue';
import PickLine from '../../fields/PickLine.vue';
import TickBox from '../../fields/TickBox.vue';
import { useDocumentStore } from '../../session/document';

// Which of its imported clips a thing plays, and from when.

const props = defineProps<{
  thing: Extract<Thing, { motion: unknown }>;
  clips: readonly Clip[];
}>();
const document = useDocumentStore();
const named = computed(() => props.clips.map(({ name }) => ({ id: name, name })));
const clip = computed(() => props.clips.find(({ name }) => name === props.thing.motion?.clip));

function set(label: string, motion: ThingMotion | null): void {
  document.edit(`${props.thing.name}, ${label}`, (draft) => {
    const found = draft.things.find(({ id }) => id === props.thing.id);
    if (found && 'motion' in found) found.motion = motion;
  });
}

function choose(name: string): void {
  const start = props.thing.motion?.start ?? document.shot!.firstFrame;
  set(
    name === '' ? 'stands' : `plays ${name}`,
    name === '' ? null : { clip: name, start, repeat: props.thing.motion?.repeat ?? false },
  );
}
</script>

<template>
  <div class="section">
    <h2 class="grow">Animation</h2>
    <span v-if="clip && document.shot" class="small">
      {{ formatQuantity(clipSeconds(clip), 's', 3) }} s,
      {{ Math.ceil(clipSeconds(clip) * document.shot.frameRate) }} frames
    </span>
  </div>
  <PickLine
    label="Plays"
    name="Clip"
    none="nothing, it stands"
    :model-value="thing.motion?.clip ?? ''"
    :options="named"
    @pick="choose"
  />
  <div v-if="thing.motion" class="line">
    <span>
      from frame
      <InlineNumber
        label="First frame of the clip"
        :model-value="thing.motion.start"
        :min="-10000"
        :max="100000"
        @change="set('start of its clip', { ...thing.motion!, start: $event })"
      />
    </span>
    <TickBox :ticked="thing.motion.repeat" @toggle="set('repeat', { ...thing.motion!, repeat: !thing.motion!.repeat })">
      again and again
    </TickBox>
  </div>
  <p v-if="thing.motion && thing.role === 'cloth'" class="small own">
    The cloth starts where its animation is then. Let pins follow it at Hold.
  </p>
</template>

<style scoped>
.line {
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding-left: 16px;
  min-height: 28px;
  margin-top: 4px;
}
.own {
  padding-left: 16px;
}
</style>
