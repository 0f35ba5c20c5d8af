import { between, type FramesAround } from '../finish/between';
import { retimingSteps, sourceFrame } from '../shot/sourceFrame';
import type { HandedFrame } from './formats/format';
import type { SimulatedCloth } from './simulatedCloth';

/** What is held of a cloth whose frames come one after the other: those that it may still ask for. */
interface Held {
  cloth: SimulatedCloth;
  frames: Map<number, Float32Array>;
}

/**
 * The frames of a take with each cloth as its retiming steps have it, as the frames of the take come, each once and in order. It goes on until the last
 * cloth has come to its last frame; cloth that has done so before stays there. Where no cloth is retimed, the frames are what they were.
 */
export async function* retimeTake(
  cloths: readonly SimulatedCloth[],
  firstFrame: number,
  frames: AsyncIterable<HandedFrame>,
): AsyncGenerator<HandedFrame> {
  if (!cloths.some(({ cloth }) => retimingSteps(cloth).length > 0)) {
    yield* frames;
    return;
  }
  const coming = frames[Symbol.asyncIterator]();
  const held: Held[] = cloths.map((cloth) => ({ cloth, frames: new Map() }));
  let [first, last, ended] = [null as number | null, -Infinity, false];
  /** Reads on until a frame is there, or the take has ended. */
  const readTo = async (wanted: number) => {
    while (!ended && last < wanted) {
      const { done, value } = await coming.next();
      ended = done === true;
      if (done) return;
      first ??= value.frame;
      last = value.frame;
      held.forEach(({ frames: own }, i) => own.set(value.frame, value.positions[i]!));
    }
  };
  try {
    await readTo(firstFrame);
    if (first === null) return;
    const sourcesAt = (frame: number) => cloths.map(({ cloth }) => sourceFrame(cloth, firstFrame, frame));
    let before = sourcesAt(first - 1);
    for (let frame = first; ; frame++) {
      const sources = sourcesAt(frame);
      const moves = sources.some((source, i) => source > before[i]!);
      // While nothing moves, the end of the take is what ends it.
      await readTo(Math.max(Math.ceil(Math.max(...sources)) + 1, moves ? -Infinity : frame));
      // All have come to the end, or stand still for good.
      if (ended && frame > first && (before.every((source) => source >= last) || (!moves && frame > last))) return;
      before = sources;
      const positions = held.map((one, i) => placesAt(one, Math.min(sources[i]!, last)));
      // A frame that is missing of the take is missing here too.
      if (positions.every((own) => own !== null)) yield { frame, positions: positions as Float32Array[] };
      held.forEach(({ frames: own }, i) => forget(own, Math.floor(Math.min(sources[i]!, last)) - 1));
    }
  } finally {
    // Whoever has enough frames ends the take too.
    await coming.return?.();
  }
}

function placesAt({ cloth: { mesh }, frames }: Held, source: number): Float32Array | null {
  const whole = Math.floor(source);
  const from = frames.get(whole);
  if (!from) return null;
  if (source === whole) return from;
  const to = frames.get(whole + 1);
  if (!to) return null;
  const around: FramesAround = [frames.get(whole - 1) ?? null, from, to, frames.get(whole + 2) ?? null];
  return between(mesh, around, source - whole);
}

/** Frames before one are not asked for any more. */
function forget(frames: Map<number, Float32Array>, until: number): void {
  for (const frame of frames.keys()) {
    if (frame >= until) return;
    frames.delete(frame);
  }
}
