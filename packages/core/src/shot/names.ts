import type { Shot } from './schema';

/** A name that no thing of the shot has yet: the base itself, else with a number behind it. */
export function freeName(shot: Pick<Shot, 'things'>, base: string): string {
  const names = new Set(shot.things.map(({ name }) => name));
  if (!names.has(base)) return base;
  const stem = base.replace(/ \d+$/, '');
  for (let n = 2; ; n++) if (!names.has(`${stem} ${n}`)) return `${stem} ${n}`;
}
