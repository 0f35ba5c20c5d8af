import { useLocalStorage, type RemovableRef } from '@vueuse/core';
import { z } from 'zod';

/** Widths of the bench in CSS pixels, as they were left. */
const layoutSchema = z.object({
  panel: z.number().min(256).max(480).catch(288),
  /** 0 where the list is folded away. */
  things: z.union([z.literal(0), z.number().min(180).max(400)]).catch(220),
});

export type Layout = z.infer<typeof layoutSchema>;

/** The widths of the bench’s panels, remembered in this browser. What an older or newer Lumbra left and cannot be used is as new. */
export function useLayout(): RemovableRef<Layout> {
  return useLocalStorage<Layout>('lumbra.layout', layoutSchema.parse({}), {
    serializer: {
      read: (text) => {
        try {
          return layoutSchema.parse(JSON.parse(text));
        } catch {
          return layoutSchema.parse({});
        }
      },
      write: (layout) => JSON.stringify(layout),
    },
  });
}
