import { finishNumber } from '../../shot/finishAt';
import { trackOf, trackValue, type Track } from '../../shot/keys';
import { movesOf, resampled, type Counts } from './controlPoints';
import type { StepOf } from '../steps';

type Lattice = Extract<StepOf, { kind: 'lattice' }>;

/**
 * Gives a lattice of a draft other numbers of points, which bend what they bent; keys of its points, among `keys`, become keys of the new ones at the same
 * frames. `id` is that of the step.
 */
export function setLatticeCounts(step: Lattice, id: string, keys: Track[], counts: Counts): Track[] {
  const from: Counts = [...step.counts];
  const before = [...movesOf(step)];
  const numbers = before.map((_, i) => finishNumber(id, `points.${i}`));
  const tracks = numbers.map((number) => trackOf({ keys }, number));
  const knots = new Map(tracks.flatMap((track) => track?.knots ?? []).map((knot) => [knot.frame, knot.ease]));
  const frames = [...knots.keys()].sort((a, b) => a - b);
  const at = (frame: number) =>
    resampled(
      before.map((value, i) => (tracks[i] ? trackValue(tracks[i], frame) : value)),
      from,
      counts,
    );
  step.points = [...(frames.length > 0 ? at(frames[0]!) : resampled(before, from, counts))];
  step.counts = [...counts];
  const values = frames.map(at);
  const made = step.points.flatMap((first, i): Track[] => {
    if (values.every((moves) => Math.abs(moves[i]! - first) < 1e-9)) return [];
    const own = frames.map((frame, n) => ({ frame, value: values[n]![i]!, ease: knots.get(frame)! }));
    return [{ number: finishNumber(id, `points.${i}`), knots: own }];
  });
  const old = new Set(numbers);
  return [...keys.filter(({ number }) => !old.has(number)), ...made];
}
