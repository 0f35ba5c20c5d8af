import type { Quantity } from '@lumbra/core';
import type { Brush } from './selection';

/** The numbers of the brush that paints masks. */
export const BRUSH: Record<'radius' | 'pixels' | 'strength' | 'falloff' | 'value', Quantity> = {
  radius: {
    label: 'Brush',
    help: 'Radius of the brush on the cloth. The keys [ and ] change it.',
    unit: 'mm',
    min: 0.001,
    max: 5,
    default: 0.08,
    step: 'ratio',
  },
  pixels: {
    label: 'Brush',
    help: 'Radius of the brush on the screen: nearer to the cloth it paints finer. The keys [ and ] change it.',
    unit: 'px',
    min: 2,
    max: 500,
    default: 40,
    step: 'ratio',
  },
  strength: {
    label: 'Strength',
    help: 'How much one pass of the brush does.',
    unit: '%',
    min: 0.01,
    max: 1,
    default: 0.5,
    step: 0.01,
  },
  falloff: {
    label: 'Soft edge',
    help: 'How much of the brush falls off towards its edge.',
    unit: '%',
    min: 0,
    max: 1,
    default: 0.7,
    step: 0.01,
  },
  value: {
    label: 'Value',
    help: 'What is filled in, and what the brush sets.',
    unit: '%',
    min: 0,
    max: 1,
    default: 1,
    step: 0.01,
  },
};

/** The brush as many times as large, in the measure that it has, within what its field allows. */
export function resizedBrush(brush: Brush, by: number): Brush {
  const size = brush.unit === 'mm' ? 'radius' : 'pixels';
  const { min, max } = BRUSH[size];
  return { ...brush, [size]: Math.min(max, Math.max(min, brush[size] * by)) };
}
