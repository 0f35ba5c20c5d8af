import { serve } from '@lumbra/server';
import type { Page } from '@playwright/test';
import { drawn, openBrowser, station } from '../../e2e/bench';
import { longTasks } from './longTasks';
import { row } from './print';

const STATIONS = ['Stage', 'Pattern', 'Fabric', 'Hold', 'Air', 'Run', 'Finish', 'Hand off'];
const SHOTS = ['Crate cover', 'Gangway hood', 'Cart hood', 'Rucked runner'];
/** How often everything is switched: what is loaded and compiled when it is first asked for is told apart from the rest. */
const ROUNDS = 3;

/** The longest tasks of the page's thread while it does something and comes to rest, in ms. */
async function during(page: Page, act: () => Promise<unknown>): Promise<number> {
  await longTasks(page);
  await act();
  await page.waitForTimeout(700);
  return Math.max(0, ...(await longTasks(page)));
}

function told(kind: string, found: Map<string, number[]>): void {
  const all = [...found].flatMap(([name, tasks]) => tasks.map((ms, round) => ({ name, ms, round })));
  const late = all.filter(({ round }) => round > 0);
  const worst = (of: typeof all) => of.reduce((a, b) => (b.ms > a.ms ? b : a));
  const text = (of: typeof all) => {
    const { name, ms } = worst(of);
    return ms === 0
      ? 'none over 50 ms'
      : `${ms.toFixed(0)} ms (${name}), over 50 ms: ${of.filter((each) => each.ms > 50).length} of ${of.length}`;
  };
  row(kind, `the first time ${text(all.filter(({ round }) => round === 0))}; later ${text(late)}`);
}

/** The longest task of the page's thread while stations, themes and shots are switched. Needs a built app. */
export async function switchingCost(): Promise<void> {
  const address = await serve({ port: 0 });
  const { context, page } = await openBrowser(address);
  const stations = new Map<string, number[]>();
  const themes = new Map<string, number[]>();
  const shots = new Map<string, number[]>();
  const note = (found: Map<string, number[]>, name: string, ms: number) =>
    found.set(name, [...(found.get(name) ?? []), ms]);
  await page.goto('/');
  await page.getByRole('link', { name: `Open ${SHOTS[0]}` }).waitFor();
  for (let round = 0; round < ROUNDS; round++) {
    for (const shot of SHOTS) {
      const opened = await during(page, async () => {
        await page.getByRole('link', { name: `Open ${shot}` }).click();
        await drawn(page);
      });
      note(shots, `opening ${shot}`, opened);
      for (const name of STATIONS) note(stations, `${name}, ${shot}`, await during(page, () => station(page, name)));
      for (const theme of ['there', 'back']) {
        const switched = await during(page, () => page.getByRole('button', { name: 'Evening theme' }).click());
        note(themes, `${theme}, ${shot}`, switched);
      }
      const left = await during(page, () => page.locator('a.brand').click());
      note(shots, `leaving ${shot}`, left);
    }
  }
  told('stations', stations);
  told('themes', themes);
  told('shots', shots);
  for (const [name, tasks] of [...stations, ...themes, ...shots])
    if (tasks.some((ms) => ms > 50)) row(`  ${name}`, tasks.map((ms) => ms.toFixed(0)).join(', '));
  await context.close();
}
