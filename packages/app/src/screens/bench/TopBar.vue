<script setup lang="ts">
import { Keyboard, Redo2, Undo2 } from '@lucide/vue';
import { newId } from '@lumbra/core';
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import { useDocumentStore } from '../../session/document';
import { useUndoStore } from '../../stores/undo';
import BrandMark from '../BrandMark.vue';
import ChecksButton from './ChecksButton.vue';
import HistoryButton from './HistoryButton.vue';
import ThemeButton from '../ThemeButton.vue';
import { vTip } from '../../fields/tip';

defineEmits<{ keys: [] }>();
const document = useDocumentStore();
const undoing = useUndoStore();
const router = useRouter();
const savedText = computed(
  () => ({ saved: 'Saved', waiting: 'Saving', refused: 'Not saved', lost: 'Not saved' })[document.saving],
);

/** Where the shot was erased or changed elsewhere, what is here goes on as another one. */
async function keepAsNew(): Promise<void> {
  const id = await document.keepAsNew(newId());
  if (id) await router.push(`/shot/${id}`);
}
</script>

<template>
  <header class="top">
    <BrandMark />
    <nav class="crumb">
      <RouterLink v-if="document.production" to="/">{{ document.production.name }}</RouterLink>
      <span aria-hidden="true">/</span>
      <b class="strong">{{ document.shot?.code }} {{ document.shot?.name }}</b>
    </nav>
    <span class="grow" />
    <div v-if="document.saving === 'lost'" class="elsewhere small" role="status">
      This shot was changed or erased elsewhere; what is shown here is not kept.
      <button type="button" class="choice" @click="keepAsNew">Keep it as a new shot</button>
    </div>
    <div v-else-if="document.readOnly" class="elsewhere small" role="status">
      Another tab edits this shot; here it can only be looked at.
      <button type="button" class="choice" @click="document.takeOver()">
        {{ document.takesAnyway ? 'Edit here without its changes' : 'Edit here instead' }}
      </button>
    </div>
    <ChecksButton />
    <button
      v-tip="undoing.undoLabel ? `Undo: ${undoing.undoLabel} (ctrl+Z)` : 'Nothing to undo'"
      type="button"
      class="icon-button"
      :disabled="!undoing.undoLabel"
      aria-label="Undo"
      @click="undoing.undo()"
    >
      <Undo2 :size="16" :stroke-width="1.5" />
    </button>
    <button
      v-tip="undoing.redoLabel ? `Redo: ${undoing.redoLabel} (ctrl+shift+Z)` : 'Nothing to redo'"
      type="button"
      class="icon-button"
      :disabled="!undoing.redoLabel"
      aria-label="Redo"
      @click="undoing.redo()"
    >
      <Redo2 :size="16" :stroke-width="1.5" />
    </button>
    <HistoryButton />
    <button v-if="document.saving === 'refused'" type="button" class="choice" @click="document.flush()">
      Try to save again
    </button>
    <span
      class="small saved"
      :class="{ problem: document.saving === 'refused' || document.saving === 'lost' }"
      data-testid="saved"
      >{{ savedText }}</span
    >
    <ThemeButton />
    <button v-tip="'Keys (?)'" type="button" class="icon-button" aria-label="Keys" @click="$emit('keys')">
      <Keyboard :size="16" :stroke-width="1.5" />
    </button>
  </header>
</template>

<style scoped>
.top {
  grid-area: top;
  display: flex;
  align-items: center;
  gap: 4px;
  padding: 0 12px 0 16px;
  border-bottom: 1px solid var(--rule);
  white-space: nowrap;
}
.crumb {
  display: flex;
  gap: 8px;
  padding-left: 24px;
}
.crumb a {
  color: var(--ink-6);
}
.crumb a:hover {
  color: var(--ink-9);
}
.elsewhere {
  display: flex;
  gap: 12px;
  align-items: center;
  padding-left: 12px;
  margin-right: 12px;
  border-left: 2px dashed var(--weld);
}
.saved {
  padding: 0 8px;
  min-width: 56px;
  text-align: right;
}
.saved.problem {
  color: var(--madder);
}
</style>
