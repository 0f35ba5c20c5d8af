import { onScopeDispose, watch } from 'vue';
import { useSelectionStore } from '../../stores/selection';
import { ContactSurface } from '../contactSurface';
import { lookOf } from '../looks';
import type { ViewLayer } from '../viewPart';

/** The surface at which cloth stops, around the selected collider, where it is asked for. */
export const contact: ViewLayer = ({ stage, scene }) => {
  const selection = useSelectionStore();
  const surface = new ContactSurface();
  const remove = stage.add(surface.group);

  watch(
    [scene, () => selection.showContact, () => selection.thingId] as const,
    ([{ shot, assets, frame, evening }, shown, selected]) => {
      surface.setColour(lookOf(evening).contact);
      const thing = shown ? shot.things.find(({ id }) => id === selected) : undefined;
      const collider = thing?.role === 'collider' ? thing : null;
      void surface.show(shot, collider, assets, frame).then(() => stage.invalidate());
    },
    { immediate: true },
  );
  onScopeDispose(() => {
    surface.dispose();
    remove();
  });
};
