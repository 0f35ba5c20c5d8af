import { applyPatches } from 'immer';
import type { CheckFinding, CheckStation } from '@lumbra/core/checks';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import { checksWorker } from '../workers/checksClient';
import { useDocumentStore } from './document';
import { errorText, useNoticeStore } from './notice';
import { useRunStore } from './run';

/** After a change the checks wait this long, in ms, so that a drag is looked at once. */
const PAUSE = 350;

/** What was looked at before a run, kept up to date as the shot changes. */
export const useChecksStore = defineStore('checks', () => {
  const document = useDocumentStore();
  const run = useRunStore();
  const notice = useNoticeStore();
  const router = useRouter();
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
      const bake = run.bake ? { stale: run.stale, frames: run.stats.length } : null;
      const found = await checksWorker().check({ shot, assets: document.currentAssets() }, { bake, bytesFree });
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
    () => [document.shot?.id, run.hash, document.shot?.lastFrame, run.bake, run.stale, run.busy],
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
    if (finding.act === 'free room') return void router.push('/');
    const shot = document.shot;
    if (!shot || !document.writable()) return;
    try {
      const { label, forward, assets } = await checksWorker().mend({ shot, assets: document.currentAssets() }, finding);
      for (const [id, mesh] of assets) await document.addAsset(id, mesh);
      document.edit(label, (draft) => void applyPatches(draft, forward));
    } catch (error) {
      notice.problem(`It could not be mended; nothing was changed. ${errorText(error)}`);
    }
  }

  return { findings, grave, stations, open, mend };
});
