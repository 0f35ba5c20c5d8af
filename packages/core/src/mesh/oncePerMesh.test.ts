import { describe, expect, it, vi } from 'vitest';
import { oncePerMesh } from './oncePerMesh';
import { sheet } from './shapes/sheet';
import { borderLoops, topology } from './topology';

const mesh = sheet({ width: 1, height: 1, spacing: 0.25 });

describe('what is computed once for a mesh', () => {
  it('is computed once, also where it is nothing, and anew for another mesh', () => {
    const compute = vi.fn(() => undefined);
    const once = oncePerMesh(compute);
    once(mesh);
    once(mesh);
    expect(compute).toHaveBeenCalledOnce();
    once({ ...mesh });
    expect(compute).toHaveBeenCalledTimes(2);
  });

  it('is tried again where it failed', () => {
    const compute = vi
      .fn(() => 7)
      .mockImplementationOnce(() => {
        throw new Error('once');
      });
    const once = oncePerMesh(compute);
    expect(() => once(mesh)).toThrow('once');
    expect(once(mesh)).toBe(7);
  });

  it('the edges of a mesh are, and those of its copy are the same', () => {
    expect(topology(mesh)).toBe(topology(mesh));
    const copy = { ...mesh };
    expect(topology(copy)).not.toBe(topology(mesh));
    expect(topology(copy)).toEqual(topology(mesh));
    expect(borderLoops(topology(mesh))).toHaveLength(1);
  });
});
