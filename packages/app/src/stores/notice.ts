import { ElMessage } from 'element-plus/es/components/message/index.mjs';
import 'element-plus/es/components/message/style/css';
import { defineStore } from 'pinia';
import { ref } from 'vue';

/** Below the bar at the top, whose buttons a message that stays would cover; in px. */
const offset = 52;
/** More would cover what is to be done about them. */
const MOST_STAYING = 2;

/** What the program says: the help line at the panel's foot, and messages about what happened. */
export const useNoticeStore = defineStore('notice', () => {
  const staying: { close: () => void; topic: string | null }[] = [];
  const hint = ref<{ title: string; text: string; problem: boolean } | null>(null);

  function showHint(title: string, text: string, problem = false): void {
    hint.value = { title, text, problem };
  }

  /**
   * Something went wrong: what happened, what was kept, what to do. Stays until it is closed, two newer ones have come, or its topic is over.
   */
  function problem(text: string, topic: string | null = null): void {
    const { close } = ElMessage({ message: text, type: 'error', duration: 0, showClose: true, grouping: true, offset });
    if (staying.at(-1)?.close !== close) staying.push({ close, topic });
    if (staying.length > MOST_STAYING) staying.shift()?.close();
  }

  /** What was said of a topic does not hold any more: it is tried again. */
  function over(topic: string): void {
    for (const one of staying.filter((message) => message.topic === topic)) {
      one.close();
      staying.splice(staying.indexOf(one), 1);
    }
  }

  /** Something was done. */
  function say(text: string): void {
    ElMessage({ message: text, type: 'success', duration: 4000, grouping: true, offset });
  }

  /** Nothing was done, and why: what to do instead. */
  function remark(text: string): void {
    ElMessage({ message: text, type: 'info', duration: 4000, grouping: true, offset });
  }

  return { hint, showHint, problem, over, say, remark };
});

/** The words of an error for the artist. */
export function errorText(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}
