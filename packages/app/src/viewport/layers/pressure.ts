import { onScopeDispose, watchEffect } from 'vue';
import { usePressureStore } from '../../stores/pressure';
import type { ViewLayer } from '../viewPart';

/** How hard air presses on cloth, in colour, where that is asked for. */
export const pressure: ViewLayer = ({ stage }) => {
  const store = usePressureStore();

  watchEffect(() => {
    const { found, most } = store;
    const bytes = (values: Float32Array) => Uint8Array.from(values, (value) => Math.round((255 * value) / most));
    stage.setMasks(new Map([...found].map(([id, values]) => [id, bytes(values)])));
  });
  onScopeDispose(() => stage.setMasks(new Map()));
};
