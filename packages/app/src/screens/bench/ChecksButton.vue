<script setup lang="ts">
import type { CheckFinding } from '@lumbra/core/checks';
import { ElPopover } from 'element-plus';
import 'element-plus/es/components/popover/style/css';
import { TriangleAlert } from '@lucide/vue';
import { computed } from 'vue';
import { useChecksStore } from '../../stores/checks';
import { useDocumentStore } from '../../session/document';
import { useSelectionStore } from '../../stores/selection';

// What the checks found before a run, each with its remedy.

const checks = useChecksStore();
const document = useDocumentStore();
const selection = useSelectionStore();
const label = computed(() => {
  const count = checks.findings.length;
  if (count === 0) return 'All checks well';
  return `${count} ${count === 1 ? 'check' : 'checks'}`;
});
const nameOf = (id: string) => document.shot?.things.find((thing) => thing.id === id)?.name ?? '';

function goTo(finding: CheckFinding): void {
  selection.station = finding.station;
  if (finding.thing !== null) selection.select(finding.thing);
}
</script>

<template>
  <ElPopover
    v-model:visible="checks.open"
    append-to="#overlays"
    trigger="click"
    placement="bottom-end"
    :width="400"
    :show-arrow="false"
    :persistent="false"
  >
    <template #reference>
      <button
        type="button"
        class="checks small"
        :class="{ grave: checks.grave.length > 0, some: checks.findings.length > 0 }"
        data-testid="checks"
      >
        <i />{{ label }}
      </button>
    </template>
    <section class="list" aria-label="Checks">
      <h2>{{ checks.findings.length ? 'Before it is run' : 'All checks are well' }}</h2>
      <p v-if="checks.findings.length === 0" class="small">
        Sizes, spacing, what starts inside or crossed, keys and lost parts were looked at. Nothing stands in the way.
      </p>
      <article v-for="(finding, i) in checks.findings" :key="`${finding.check}.${finding.thing}.${i}`">
        <TriangleAlert :size="16" :stroke-width="1.5" :class="finding.grave ? 'problem' : 'worth'" />
        <p>{{ finding.text }}</p>
        <button v-if="finding.remedy" type="button" class="choice" @click="checks.mend(finding)">
          {{ finding.remedy }}
        </button>
        <button type="button" class="choice" @click="goTo(finding)">
          {{ finding.thing === null ? 'Show' : `Go to ${nameOf(finding.thing)}` }}
        </button>
      </article>
    </section>
  </ElPopover>
</template>

<style scoped>
.checks {
  display: flex;
  align-items: center;
  gap: 8px;
  height: 28px;
  padding: 0 12px;
  border-radius: 3px;
}
.checks:hover {
  background: var(--linen-0);
}
.checks i {
  width: 8px;
  height: 8px;
  border-radius: 50%;
  background: var(--woad);
}
.checks.some i {
  background: var(--weld);
}
.checks.grave i {
  background: var(--madder);
}
.list {
  max-height: 480px;
  overflow-y: auto;
  scrollbar-width: thin;
  color: var(--ink-9);
}
article {
  display: grid;
  grid-template-columns: 24px 1fr 1fr;
  gap: 4px;
  align-items: start;
  padding: 8px 0;
  border-top: 1px solid var(--rule);
}
h2 + article {
  margin-top: 8px;
}
article svg {
  margin-top: 2px;
}
article p {
  grid-column: 2 / 4;
  white-space: normal;
  text-align: left;
}
article .choice {
  grid-column: 2;
  justify-self: start;
}
article .choice + .choice {
  grid-column: 3;
  justify-self: end;
}
.worth {
  color: var(--weld);
}
</style>
