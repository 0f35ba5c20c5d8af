import { fabricSchema, type Fabric } from './fabric';

/** How a printed cloth looks. Never changes a run. */
export interface SwatchLook {
  color: string;
  /** 0 matt to 1 glossy. */
  sheen: number;
}

export interface FabricCard {
  id: string;
  name: string;
  /** What it is and what it is for, in one line. */
  note: string;
  fabric: Fabric;
  look: SwatchLook;
}

// Every number lies in the typical range that the objective-measurement literature reports for such cloth (the
// KES-F and FAST families of tests and the drapemeter). They are plausible orders of magnitude, chosen inside
// those ranges, and not measurements of one swatch. The ranges are in swatchBook.test.ts.
function card(
  id: string,
  name: string,
  note: string,
  look: SwatchLook,
  numbers: {
    gsm: number;
    mm: number;
    bend: [number, number];
    stretch: [number, number];
    shear: number;
  } & Partial<Fabric>,
): FabricCard {
  const { gsm, mm, bend, stretch, shear, ...rest } = numbers;
  const fabric = fabricSchema.parse({
    weight: gsm / 1000,
    thickness: mm / 1000,
    bendWarp: bend[0] * 1e-6,
    bendWeft: bend[1] * 1e-6,
    stretchWarp: stretch[0],
    stretchWeft: stretch[1],
    shear,
    ...rest,
  });
  return { id, name, note, fabric, look };
}

export const SWATCH_BOOK: readonly FabricCard[] = [
  card(
    'silk-habotai',
    'Silk habotai',
    'Light plain-weave silk: scarves, linings, flags that float.',
    { color: '#D9C7B0', sheen: 0.6 },
    { gsm: 45, mm: 0.1, bend: [2.2, 1.8], stretch: [8000, 6000], shear: 25, friction: 0.2, damping: 0.003 },
  ),
  card(
    'cotton-poplin',
    'Cotton poplin',
    'Close, smooth shirting that creases crisply.',
    { color: '#E6DFD0', sheen: 0.1 },
    { gsm: 115, mm: 0.27, bend: [9, 6.5], stretch: [6000, 3500], shear: 70, friction: 0.35, damping: 0.005 },
  ),
  card(
    'linen-mid',
    'Linen, mid weight',
    'Dry, slightly stiff cloth for tables and curtains.',
    { color: '#CFC4A8', sheen: 0.05 },
    { gsm: 185, mm: 0.4, bend: [20, 16], stretch: [7000, 6000], shear: 55, friction: 0.4, damping: 0.006 },
  ),
  card(
    'wool-suiting',
    'Wool suiting',
    'Supple and heavy enough to hang well: coats, skirts, uniforms.',
    { color: '#4C5468', sheen: 0.05 },
    { gsm: 230, mm: 0.55, bend: [11, 9], stretch: [3200, 2200], shear: 40, friction: 0.4, damping: 0.006 },
  ),
  card(
    'waxed-cotton',
    'Waxed cotton',
    'Stiff weatherproof cover that holds broad folds.',
    { color: '#9C987C', sheen: 0.35 },
    { gsm: 340, mm: 0.5, bend: [110, 80], stretch: [10000, 8000], shear: 150, friction: 0.45, damping: 0.008 },
  ),
  card(
    'canvas',
    'Canvas',
    'Heavy plain weave: awnings, sails, tarpaulins.',
    { color: '#D8CDB4', sheen: 0.05 },
    { gsm: 420, mm: 0.75, bend: [180, 140], stretch: [16000, 12000], shear: 180, friction: 0.45, damping: 0.008 },
  ),
];

export function findCard(id: string): FabricCard | undefined {
  return SWATCH_BOOK.find((entry) => entry.id === id);
}
