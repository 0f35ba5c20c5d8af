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
  /** Typical range of the drape coefficient of such cloth, as shares. */
  drapeRange: [number, number];
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
    /** Drape coefficient in %, from least to most. */
    drape: [number, number];
    bend: [number, number];
    stretch: [number, number];
    shear: number;
  } & Partial<Fabric>,
  more: Partial<Fabric> = {},
): FabricCard {
  const { gsm, mm, drape, bend, stretch, shear, ...rest } = numbers;
  const fabric = fabricSchema.parse({
    weight: gsm / 1000,
    thickness: mm / 1000,
    bendWarp: bend[0] * 1e-6,
    bendWeft: bend[1] * 1e-6,
    stretchWarp: stretch[0],
    stretchWeft: stretch[1],
    shear,
    ...rest,
    ...more,
  });
  return { id, name, note, fabric, look, drapeRange: [drape[0] / 100, drape[1] / 100] };
}

export const SWATCH_BOOK: readonly FabricCard[] = [
  card(
    'silk-chiffon',
    'Silk chiffon',
    'Sheer and limp: veils, scarves, floating layers.',
    { color: '#D8CFC4', sheen: 0.3 },
    {
      gsm: 45,
      mm: 0.16,
      drape: [10, 25],
      bend: [0.9, 0.8],
      stretch: [3200, 2400],
      shear: 10,
      friction: 0.25,
      damping: 0.003,
    },
    { airAcross: 0.8 },
  ),
  card(
    'silk-habotai',
    'Silk habotai',
    'Light plain-weave silk: scarves, linings, flags that float.',
    { color: '#D9C7B0', sheen: 0.6 },
    {
      gsm: 45,
      mm: 0.1,
      drape: [20, 40],
      bend: [2.2, 1.8],
      stretch: [8000, 6000],
      shear: 25,
      friction: 0.2,
      damping: 0.003,
    },
  ),
  card(
    'silk-organza',
    'Silk organza',
    'Sheer but crisp: stands off in large, sharp folds.',
    { color: '#E2DACB', sheen: 0.5 },
    {
      gsm: 35,
      mm: 0.12,
      drape: [55, 80],
      bend: [8.5, 7],
      stretch: [9000, 7000],
      shear: 60,
      friction: 0.25,
      damping: 0.004,
    },
    { airAcross: 0.9 },
  ),
  card(
    'cotton-poplin',
    'Cotton poplin',
    'Close, smooth shirting that creases crisply.',
    { color: '#E6DFD0', sheen: 0.1 },
    {
      gsm: 115,
      mm: 0.27,
      drape: [50, 70],
      bend: [14, 11],
      stretch: [6000, 3500],
      shear: 90,
      friction: 0.35,
      damping: 0.005,
    },
  ),
  card(
    'cotton-jersey',
    'Cotton jersey',
    'Soft knit that gives: shirts, sleeves, covers that cling.',
    { color: '#B9B3A6', sheen: 0 },
    { gsm: 165, mm: 0.7, drape: [20, 45], bend: [5, 4], stretch: [900, 450], shear: 30, friction: 0.5, damping: 0.008 },
  ),
  card(
    'linen-mid',
    'Linen, mid weight',
    'Dry, slightly stiff cloth for tables and curtains.',
    { color: '#CFC4A8', sheen: 0.05 },
    {
      gsm: 185,
      mm: 0.4,
      drape: [50, 75],
      bend: [22, 18],
      stretch: [7000, 6000],
      shear: 55,
      friction: 0.4,
      damping: 0.006,
    },
  ),
  card(
    'wool-suiting',
    'Wool suiting',
    'Supple and heavy enough to hang well: coats, skirts, uniforms.',
    { color: '#4C5468', sheen: 0.05 },
    {
      gsm: 220,
      mm: 0.55,
      drape: [35, 55],
      bend: [14.5, 12],
      stretch: [3200, 2200],
      shear: 45,
      friction: 0.4,
      damping: 0.006,
    },
  ),
  card(
    'wool-coating',
    'Wool coating',
    'Thick and full: coats, blankets, heavy drapes.',
    { color: '#6B5B4C', sheen: 0 },
    {
      gsm: 480,
      mm: 2.2,
      drape: [55, 80],
      bend: [85, 70],
      stretch: [3000, 2200],
      shear: 80,
      friction: 0.55,
      damping: 0.01,
    },
  ),
  card(
    'terry-towelling',
    'Terry towelling',
    'Looped and thick: towels, robes.',
    { color: '#C9D2CE', sheen: 0 },
    {
      gsm: 420,
      mm: 2.8,
      drape: [45, 70],
      bend: [38, 32],
      stretch: [2400, 1800],
      shear: 55,
      friction: 0.7,
      damping: 0.01,
    },
  ),
  card(
    'denim',
    'Denim',
    'Firm twill: work clothes, aprons.',
    { color: '#44546E', sheen: 0 },
    {
      gsm: 390,
      mm: 0.85,
      drape: [70, 90],
      bend: [95, 75],
      stretch: [12000, 8000],
      shear: 160,
      friction: 0.45,
      damping: 0.008,
    },
  ),
  card(
    'waxed-cotton',
    'Waxed cotton',
    'Stiff weatherproof cover that holds broad folds.',
    { color: '#9C987C', sheen: 0.35 },
    {
      gsm: 340,
      mm: 0.5,
      drape: [75, 92],
      bend: [110, 80],
      stretch: [10000, 8000],
      shear: 150,
      friction: 0.45,
      damping: 0.008,
    },
  ),
  card(
    'canvas',
    'Canvas',
    'Heavy plain weave: awnings, sails, tarpaulins.',
    { color: '#D8CDB4', sheen: 0.05 },
    {
      gsm: 420,
      mm: 0.75,
      drape: [80, 95],
      bend: [180, 140],
      stretch: [16000, 12000],
      shear: 180,
      friction: 0.45,
      damping: 0.008,
    },
  ),
  card(
    'hessian',
    'Hessian',
    'Open, coarse weave that shears easily: sacks, wrapping.',
    { color: '#B39B6F', sheen: 0 },
    {
      gsm: 300,
      mm: 1,
      drape: [60, 85],
      bend: [75, 60],
      stretch: [9000, 7000],
      shear: 20,
      friction: 0.55,
      damping: 0.008,
    },
    { airAcross: 0.7 },
  ),
  card(
    'ripstop-nylon',
    'Ripstop nylon',
    'Thin and tight: kites, tents, light sails.',
    { color: '#8FA7A3', sheen: 0.4 },
    {
      gsm: 55,
      mm: 0.09,
      drape: [50, 75],
      bend: [6, 5],
      stretch: [12000, 10000],
      shear: 60,
      friction: 0.25,
      damping: 0.003,
    },
  ),
  card(
    'garment-leather',
    'Garment leather',
    'Dense and springy: jackets, straps, aprons.',
    { color: '#6A4A37', sheen: 0.35 },
    {
      gsm: 560,
      mm: 0.85,
      drape: [70, 92],
      bend: [160, 140],
      stretch: [6000, 5000],
      shear: 500,
      friction: 0.5,
      damping: 0.012,
    },
  ),
  card(
    'rubber-sheet',
    'Rubber sheet',
    'Gives a great deal and springs back; no grain.',
    { color: '#3C3F42', sheen: 0.3 },
    {
      gsm: 380,
      mm: 0.38,
      drape: [30, 60],
      bend: [16, 16],
      stretch: [600, 600],
      shear: 200,
      friction: 0.9,
      damping: 0.01,
    },
    { squeeze: 1 },
  ),
];

export function findCard(id: string): FabricCard | undefined {
  return SWATCH_BOOK.find((entry) => entry.id === id);
}
