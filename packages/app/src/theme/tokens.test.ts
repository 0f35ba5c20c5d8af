import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';

const css = readFileSync(new URL('./tokens.css', import.meta.url), 'utf8');

/** The colours of a block, by name. */
function coloursOf(block: string): Record<string, string> {
  return Object.fromEntries(
    [...block.matchAll(/--([\w-]+):\s*(#[0-9a-f]{6})/g)].map(([, name, value]) => [name, value]),
  );
}

const [day, evening] = [/:root \{([^}]*)\}/, /\[data-theme='evening'\] \{([^}]*)\}/].map((block) =>
  coloursOf(block.exec(css)![1]!),
) as [Record<string, string>, Record<string, string>];

/** Relative luminance as WCAG 2 has it. */
function luminance(hex: string): number {
  const [r, g, b] = [1, 3, 5].map((at) => {
    const value = parseInt(hex.slice(at, at + 2), 16) / 255;
    return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
  }) as [number, number, number];
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

function contrast(a: string, b: string): number {
  const [light, dark] = [luminance(a), luminance(b)].sort((x, y) => y - x) as [number, number];
  return (light + 0.05) / (dark + 0.05);
}

describe.each([
  ['day', day],
  ['evening', { ...day, ...evening }],
])('the colours of the %s', (_, colours) => {
  const grounds = ['linen-0', 'linen-1'];

  it.each(['ink-9', 'ink-6', 'indigo', 'madder', 'weld-text'])('%s is read on both grounds', (name) => {
    for (const ground of grounds) expect(contrast(colours[name]!, colours[ground]!)).toBeGreaterThanOrEqual(4.5);
  });

  it.each(['weld', 'woad', 'edge', 'mark'])('%s is seen on both grounds', (name) => {
    for (const ground of grounds) expect(contrast(colours[name]!, colours[ground]!)).toBeGreaterThanOrEqual(3);
  });

  it('what stands on indigo is read', () => {
    expect(contrast(colours['on-indigo']!, colours['indigo']!)).toBeGreaterThanOrEqual(4.5);
  });
});
