import { endOf, firstOf, inColours } from './threads/ranges';
import { pass, passed } from './threads/pool';
import * as Attachment from '../layouts/constraints/attachment';

// Long-range attachments: a point is never farther from a held point than the cloth between them is long (Kim et al. 2012, "Long
// Range Attachments - A Method to Simulate Inextensible Clothing in Computer Games"). They take away most of the stretch that
// one sweep a substep leaves in hanging cloth.

/** Attachments that a thread takes at a time. */
const CHUNK: i32 = 1024;

/**
 * Draws every point that is too far from its held point back to its greatest distance. `scales` has f32 by which distances are taken; `rounds` has the u32 number of the first attachment of each
 * round, in which a point has one at most, with the end appended.
 */
export function solveAttachments(
  points: usize,
  displacement: usize,
  attachments: usize,
  scales: usize,
  rounds: usize,
  roundCount: i32,
): void {
  pass<usize>(0, points);
  pass<usize>(1, displacement);
  pass<usize>(2, attachments);
  pass<usize>(3, scales);
  inColours(solveChunk.index, rounds, roundCount, CHUNK);
}

function solveChunk(chunk: i32): void {
  const points = passed<usize>(0),
    displacement = passed<usize>(1),
    attachments = passed<usize>(2),
    scales = passed<usize>(3);
  for (let n = firstOf(chunk), end = endOf(chunk); n < end; n++) {
    const attachment = attachments + <usize>n * Attachment.BYTES;
    const i = <usize>load<u32>(attachment, Attachment.POINT),
      held = <usize>load<u32>(attachment, Attachment.HELD);
    const most = load<f32>(attachment, Attachment.DISTANCE) * load<f32>(scales + <usize>load<u32>(attachment, Attachment.SCALE));
    const d = v128.load(displacement + i);
    const away = f32x4.add(
      f32x4.sub(v128.load(points + i), v128.load(points + held)),
      f32x4.sub(d, v128.load(displacement + held)),
    );
    const s = f32x4.mul(away, away);
    const square =
      f32x4.extract_lane(s, 0) + f32x4.extract_lane(s, 1) + f32x4.extract_lane(s, 2);
    if (square <= most * most) continue;
    const back = f32x4.mul(away, f32x4.splat(most / Mathf.sqrt(square) - 1));
    v128.store(displacement + i, f32x4.add(d, f32x4.replace_lane(back, 3, 0)));
  }
}
