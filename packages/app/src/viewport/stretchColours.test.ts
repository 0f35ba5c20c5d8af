import { Color } from 'three';
import { describe, expect, it } from 'vitest';
import { STRETCH_LIMIT, stretchColour, stretchSteps } from './stretchColours';

describe('the colours of stretch', () => {
  const warm = (stretch: number) => {
    const { r, b } = stretchColour(stretch, new Color());
    return r - b;
  };

  it('go from squeezed to stretched in steps, and stay at their ends beyond', () => {
    const scale = Array.from({ length: 200 }, (_, i) => warm((i / 100 - 1) * STRETCH_LIMIT * 0.999));
    for (let i = 1; i < scale.length; i++) expect(scale[i]).toBeGreaterThanOrEqual(scale[i - 1]! - 1e-9);
    expect(new Set(scale).size).toBe(stretchSteps().length);
    expect(warm(10)).toBe(warm(STRETCH_LIMIT));
    expect(warm(-10)).toBe(warm(-STRETCH_LIMIT));
  });

  it('are those of the legend', () => {
    const steps = stretchSteps();
    expect(`#${stretchColour(-STRETCH_LIMIT).getHexString()}`).toBe(steps[0]);
    expect(`#${stretchColour(STRETCH_LIMIT).getHexString()}`).toBe(steps.at(-1));
  });
});
