import { quantity } from '../quantity/quantity';

/** How fast air of a kind moves. */
export const speedNumber = (help: string, value: number) =>
  quantity({ label: 'Speed', help, unit: 'm/s', min: 0, max: 100, default: value, step: 0.1, keyable: true });
