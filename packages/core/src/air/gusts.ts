import { sine } from '../math/trigonometry';
import { quantity } from '../quantity/quantity';

/** Numbers of air that comes in gusts. */
export const gustNumbers = {
  gustDepth: quantity({
    label: 'Gust depth',
    help: 'How far gusts raise and lower the speed. 0 % is a steady wind.',
    unit: '%',
    min: 0,
    max: 1,
    default: 0,
    step: 0.01,
    keyable: true,
    group: 'Gusts',
  }),
  gustPeriod: quantity({
    label: 'Gust period',
    help: 'Time from one gust to the next.',
    unit: 's',
    min: 0.1,
    max: 60,
    default: 3,
    step: 0.05,
    group: 'Gusts',
  }),
  gustSeed: quantity({
    label: 'Gust seed',
    help: 'Another number gives other gusts of the same kind.',
    unit: '',
    min: 0,
    max: 9999,
    default: 0,
    step: 1,
    whole: true,
    group: 'Gusts',
  }),
};

/** By how much two winds of neighbouring seeds are out of step, in turns. */
const SEED_TURNS = 0.381966;

/**
 * How gusts scale the wind at a time in s: two slow waves whose periods do not divide each other, so that no two gusts are alike. The
 * mean is 1; with a depth of 1 the wind falls to nothing and doubles.
 */
export function gustFactor(
  { gustDepth, gustPeriod, gustSeed }: { gustDepth: number; gustPeriod: number; gustSeed: number },
  time: number,
): number {
  if (gustDepth === 0) return 1;
  const turn = 2 * Math.PI * (time / gustPeriod + gustSeed * SEED_TURNS);
  return 1 + gustDepth * (0.65 * sine(turn) + 0.35 * sine(turn * 2.37 + 1.1));
}
