import { onBeforeUnmount, watch } from 'vue';
import { useDocumentStore } from '../session/document';
import { useRunStore } from '../stores/run';
import { useTakesStore } from '../stores/takes';

/** Plays the baked frames at the shot's rate, leaving frames out where drawing cannot keep up, and begins again at the end. */
export function usePlayback(): { toggle: () => void } {
  const document = useDocumentStore();
  const run = useRunStore();
  const takes = useTakesStore();
  let request = 0;

  function play(): void {
    const first = run.firstFrame;
    const last = Math.min(takes.bakedUntil ?? first, run.lastFrame);
    if (run.frame >= last) run.goTo(first);
    const origin = { time: performance.now(), frame: run.frame };
    const step = () => {
      if (!run.playing) return;
      const elapsed = ((performance.now() - origin.time) / 1000) * (document.shot?.frameRate ?? 24);
      const count = Math.max(1, last - first + 1);
      const wanted = first + ((origin.frame - first + Math.floor(elapsed)) % count);
      if (wanted !== run.frame) {
        run.goTo(wanted);
        takes.readAhead(wanted, first, last);
      }
      request = requestAnimationFrame(step);
    };
    request = requestAnimationFrame(step);
  }

  watch(
    () => run.playing,
    (playing) => {
      cancelAnimationFrame(request);
      if (playing) play();
    },
  );
  onBeforeUnmount(() => cancelAnimationFrame(request));

  function toggle(): void {
    if (!run.playing && (takes.bakedUntil === null || run.status === 'settling' || run.status === 'live')) return;
    run.playing = !run.playing;
  }
  return { toggle };
}
