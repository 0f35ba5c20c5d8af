import type { Page } from '@playwright/test';

/** Tasks of the page's thread that took more than 50 ms since the last call. */
export async function longTasks(page: Page): Promise<number[]> {
  return page.evaluate(() => {
    const at = window as unknown as { tasks?: number[] };
    if (!at.tasks) {
      const tasks: number[] = (at.tasks = []);
      new PerformanceObserver((list) => tasks.push(...list.getEntries().map(({ duration }) => duration))).observe({
        type: 'longtask',
      });
    }
    return at.tasks.splice(0);
  });
}
