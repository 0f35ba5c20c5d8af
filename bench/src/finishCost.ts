import {
  CACHE_FORMATS,
  FINISH_KINDS,
  finishEntrySchema,
  FinishList,
  pointCount,
  shapeMesh,
  type FileSink,
  type FinishEntry,
  type FinishKind,
  type HandedFrame,
  type Mesh,
} from '@lumbra/core';
import { median, row } from './print';

const ROUNDS = 7;
/** Steps that ask for other things are not measured. */
const LEFT_OUT: readonly FinishKind[] = ['carry', 'lift', 'retime'];

/** A waving sheet of about so many points. */
function waving(points: number): { mesh: Mesh; at: (frame: number) => Float32Array } {
  const spacing = 2 / Math.sqrt(points);
  const mesh = shapeMesh({ kind: 'sheet', width: 2, height: 2, spacing }, new Map());
  const at = (frame: number) =>
    mesh.positions.map((value, i) =>
      i % 3 === 1
        ? 0.1 * Math.sin(6 * mesh.positions[i - 1]! + 0.2 * frame) * Math.cos(4 * mesh.positions[i + 1]!)
        : value,
    );
  return { mesh, at };
}

function entry(kind: FinishKind, numbers: object = {}): FinishEntry {
  return finishEntrySchema.parse({ id: kind, step: { kind, ...numbers } });
}

/** How long a frame of a finish list takes once its step is prepared. */
function placing(mesh: Mesh, positions: Float32Array, entries: readonly FinishEntry[]): number {
  const list = new FinishList(mesh, entries);
  const times = Array.from({ length: ROUNDS }, () => {
    const started = performance.now();
    list.place(positions, entries, () => null);
    return performance.now() - started;
  });
  return median(times);
}

/** What finishing a frame costs, and how fast a take is written in each format. */
export async function finishCost(): Promise<void> {
  const { mesh, at } = waving(10_000);
  console.log(`A frame of ${pointCount(mesh)} points, medians of ${ROUNDS}`);
  row('step', 'time');
  for (const kind of FINISH_KINDS) {
    if (LEFT_OUT.includes(kind)) continue;
    const moved = kind === 'lattice' ? { points: Array.from({ length: 81 }, (_, i) => (i % 5) * 0.01) } : {};
    row(kind, `${placing(mesh, at(3), [entry(kind, moved)]).toFixed(0)} ms`);
  }
  row('subdivide twice', `${placing(mesh, at(3), [entry('subdivide', { times: 2 })]).toFixed(0)} ms`);

  const [frames, large] = [300, waving(40_000)];
  console.log(`\n${frames} frames of ${pointCount(large.mesh)} points, written nowhere`);
  row('format', 'written', 'rate', 'most memory');
  const twelve = Array.from({ length: 12 }, (_, frame) => large.at(frame));
  for (const format of CACHE_FORMATS.filter(({ id }) => id === 'usdc' || id === 'ply' || id === 'stl')) {
    let [bytes, most] = [0, 0];
    const sink: FileSink = { open: () => ({ write: (part) => void (bytes += part.length), close: () => undefined }) };
    const before = process.memoryUsage();
    async function* all(): AsyncGenerator<HandedFrame> {
      for (let frame = 0; frame < frames; frame++) {
        const { rss } = process.memoryUsage();
        most = Math.max(most, rss - before.rss);
        yield await Promise.resolve({ frame, positions: [twelve[frame % 12]!] });
      }
    }
    const started = performance.now();
    await format.write(
      { cloths: [{ id: 'sheet', name: 'Sheet', mesh: large.mesh }], frames: all(), frameRate: 24, stem: 'bench' },
      sink,
    );
    const seconds = (performance.now() - started) / 1000;
    row(
      format.id,
      `${(bytes / 1e6).toFixed(0)} MB`,
      `${(bytes / 1e6 / seconds).toFixed(0)} MB/s`,
      `+${(most / 1e6).toFixed(0)} MB`,
    );
  }
}
