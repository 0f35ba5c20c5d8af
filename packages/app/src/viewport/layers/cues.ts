import { onScopeDispose, watchEffect } from 'vue';
import { useCueWhereStore } from '../../stores/cueWhere';
import type { ViewLayer } from '../viewPart';

/** Where the cue that is asked for has happened, in colour on its cloth. */
export const cues: ViewLayer = ({ stage, scene }) => {
  const where = useCueWhereStore();

  watchEffect(() => {
    const cloth = scene().shot.things.find(
      (thing) => thing.role === 'cloth' && thing.cues.some(({ id }) => id === where.cue),
    );
    const shown = cloth ? where.shown : null;
    stage.setMasks(new Map(shown && cloth ? [[cloth.id, shown]] : []));
  });
  onScopeDispose(() => stage.setMasks(new Map()));
};
