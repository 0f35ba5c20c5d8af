<script setup lang="ts">
import type { Cloth } from '@lumbra/core';
import { ref } from 'vue';
import { Trash2 } from '@lucide/vue';
import { useCueActs } from '../../acts/useCueActs';
import TickBox from '../../fields/TickBox.vue';
import { vTip } from '../../fields/tip';
import CueFields from './CueFields.vue';

// The cues of a cloth: when something happens, a number of its fabric goes somewhere, there.

const props = defineProps<{ cloth: Cloth }>();
const acts = useCueActs();
/** The cue whose fields are open. */
const open = ref<string | null>(props.cloth.cues[0]?.id ?? null);
</script>

<template>
  <p v-if="cloth.cues.length === 0" class="small">
    When something happens to points of the cloth, its fabric changes there: it grows limp where it touches a lamp.
  </p>
  <ul class="cues" aria-label="Cues">
    <li v-for="cue in cloth.cues" :key="cue.id" :class="{ off: !cue.enabled }">
      <div class="line">
        <TickBox
          :label="`${cue.name}, on`"
          :ticked="cue.enabled"
          @toggle="acts.change(cloth, cue, cue.enabled ? 'off' : 'on', (own) => (own.enabled = !cue.enabled))"
        />
        <button
          type="button"
          class="title grow cut"
          :aria-expanded="open === cue.id"
          @click="open = open === cue.id ? null : cue.id"
        >
          {{ cue.name }}
        </button>
        <button v-tip="'Delete (undoable)'" type="button" class="icon-button" @click="acts.remove(cloth, cue)">
          <Trash2 :size="16" :stroke-width="1.5" />
        </button>
      </div>
      <CueFields v-if="open === cue.id" :key="cue.id" :cloth="cloth" :cue="cue" />
    </li>
  </ul>
  <div class="choices">
    <button type="button" class="choice" @click="open = acts.add(cloth)">New cue</button>
  </div>
</template>

<style scoped>
.cues {
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
}
.cues > li {
  border-top: 1px solid var(--rule);
  padding: 4px 0;
}
.line {
  display: flex;
  align-items: center;
  gap: 4px;
  height: 32px;
}
.title {
  text-align: left;
  font-weight: 600;
  height: 28px;
}
.off .title {
  color: var(--ink-6);
  font-weight: 400;
}
</style>
