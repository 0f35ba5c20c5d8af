/** The frames of a range that are not among those there, in order. */
export function missingFrames(first: number, last: number, there: (frame: number) => boolean): number[] {
  const missing: number[] = [];
  for (let frame = first; frame <= last; frame++) if (!there(frame)) missing.push(frame);
  return missing;
}

/** Frames in order as stretches of those that follow each other: [1, 2, 5] as 1 to 2 and 5 to 5. */
export function stretches(frames: readonly number[]): { from: number; to: number }[] {
  const found: { from: number; to: number }[] = [];
  for (const frame of frames) {
    const last = found.at(-1);
    if (last && frame === last.to + 1) last.to = frame;
    else found.push({ from: frame, to: frame });
  }
  return found;
}
