import type { Shot } from '@lumbra/core';
import { applyPatches } from 'immer';
import type { CheckFinding, CheckStation } from '@lumbra/core/checks';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { checksHost, checksSender } from '../workers/hosts';
import { useDocumentStore } from '../session/document';
import { errorText, useNoticeStore } from './notice';
import { useRunStore } from './run';
import { useSelectionStore } from './selection';
import { useTakesStore } from './takes';

/** After a change the checks wait this long, in ms, so that a drag is looked at once. */
const PAUSE = 350;
/** A remedy is made anew so often where the shot changes meanwhile. */
const MOST_TRIES = 3;

/** What was looked at before a run, kept up to date as the shot changes. */
export const useChecksStore = defineStore('checks', () => {
  const document = useDocumentStore();
  const run = useRunStore();
  const takes = useTakesStore();
  const notice = useNoticeStore();
  const selection = useSelectionStore();
  const findings = shallowRef<readonly CheckFinding[]>([]);
  const grave = computed(() => findings.value.filter((finding) => finding.grave));
  /** Whether the list of findings is open. */
  const open = ref(false);
  let timer = 0;
  let looking = false;
  let again = false;

  const stations = computed(() => new Set<CheckStation>(findings.value.map(({ station }) => station)));

  async function look(): Promise<void> {
    const shot = document.shot;
    if (!shot) return;
    if (looking) {
      again = true;
      return;
    }
    looking = true;
    try {
      const estimate = await navigator.storage?.estimate?.();
      const bytesFree = estimate?.quota !== undefined ? estimate.quota - (estimate.usage ?? 0) : null;
      const bake = takes.take ? { stale: takes.stale, frames: takes.account.length } : null;
      const sent = checksSender.pack(shot, document.currentAssets());
      const found = await checksHost.call((api) => api.check(sent, { bake, bytesFree }));
      if (document.shot?.id === shot.id) findings.value = found;
    } catch {
      // Checks are advice: when they cannot be made, the run itself says what is wrong.
    } finally {
      looking = false;
      if (again) {
        again = false;
        void look();
      }
    }
  }

  watch(
    () => [document.shot?.id, document.hash, document.shot?.lastFrame, takes.take?.id, takes.stale, run.busy],
    () => {
      window.clearTimeout(timer);
      // While something runs, its thread has the machine.
      if (document.shot && !run.busy) timer = window.setTimeout(() => void look(), PAUSE);
    },
    { immediate: true },
  );

  /** Mends what a check found, as one undoable edit; or does what else it takes. */
  async function mend(finding: CheckFinding): Promise<void> {
    if (finding.act === 'bake') return run.startBake();
    if (finding.act === 'free room') return void (selection.station = 'run');
    if (!document.shot || !document.writable()) return;
    const visit = document.visitNow();
    try {
      for (let tries = 0; tries < MOST_TRIES; tries++) {
        const shot: Shot = document.shot;
        const sent = checksSender.pack(shot, document.currentAssets());
        const made = await checksHost.call((api) => api.mend(sent, finding));
        if (document.visitNow() !== visit) return;
        // Made for a shot that is another one by now, it is made anew.
        if (document.shot !== shot) continue;
        for (const [id, mesh] of made.assets) document.addAsset(id, mesh);
        document.edit(made.label, (draft) => void applyPatches(draft, made.forward));
        return;
      }
      notice.remark('It was not mended: the shot is being changed. Try again when it is at rest.');
    } catch (error) {
      notice.problem(`It could not be mended; nothing was changed. ${errorText(error)}`);
    }
  }

  return { findings, grave, stations, open, mend };
});
