// Units, in one place. Inside Lumbra and in its files everything is in metres, kilograms, seconds and radians;
// units exist only where a number is shown or typed.

export type Dimension =
  | 'length'
  | 'angle'
  | 'time'
  | 'speed'
  | 'acceleration'
  | 'arealDensity'
  | 'tension'
  | 'rigidity'
  | 'curvature'
  | 'pressure'
  | 'ratio'
  | 'screen'
  | 'count';

interface UnitDefinition {
  dimension: Dimension;
  /** What one of it is in SI. */
  inSI: number;
  /** Spellings that are understood when typed, in lower case, besides the unit itself. */
  spellings?: readonly string[];
}

export const UNITS = {
  mm: { dimension: 'length', inSI: 0.001 },
  cm: { dimension: 'length', inSI: 0.01 },
  m: { dimension: 'length', inSI: 1 },
  in: { dimension: 'length', inSI: 0.0254, spellings: ['"', 'inch', 'inches', '″'] },
  ft: { dimension: 'length', inSI: 0.3048, spellings: ["'", 'feet', 'foot', '′'] },
  '°': { dimension: 'angle', inSI: Math.PI / 180, spellings: ['deg', 'degrees'] },
  rad: { dimension: 'angle', inSI: 1 },
  s: { dimension: 'time', inSI: 1 },
  ms: { dimension: 'time', inSI: 0.001 },
  'm/s': { dimension: 'speed', inSI: 1 },
  'km/h': { dimension: 'speed', inSI: 1 / 3.6 },
  'm/s²': { dimension: 'acceleration', inSI: 1, spellings: ['m/s2', 'm/s^2'] },
  'g/m²': { dimension: 'arealDensity', inSI: 0.001, spellings: ['g/m2', 'gsm'] },
  'kg/m²': { dimension: 'arealDensity', inSI: 1, spellings: ['kg/m2'] },
  'N/m': { dimension: 'tension', inSI: 1 },
  'kN/m': { dimension: 'tension', inSI: 1000 },
  'µN·m': { dimension: 'rigidity', inSI: 1e-6, spellings: ['unm', 'µnm', 'un.m', 'μn·m', 'un·m', 'µn.m'] },
  '/m': { dimension: 'curvature', inSI: 1, spellings: ['1/m', 'm^-1'] },
  Pa: { dimension: 'pressure', inSI: 1, spellings: ['pascal', 'n/m2', 'n/m²'] },
  kPa: { dimension: 'pressure', inSI: 1000 },
  '%': { dimension: 'ratio', inSI: 0.01 },
  px: { dimension: 'screen', inSI: 1, spellings: ['pixels', 'pixel'] },
  '': { dimension: 'count', inSI: 1 },
} as const satisfies Record<string, UnitDefinition>;

export type Unit = keyof typeof UNITS;

function definition(unit: Unit): UnitDefinition {
  return UNITS[unit];
}

/** The number to show for an SI value. */
export function inUnit(value: number, unit: Unit): number {
  return value / definition(unit).inSI;
}

/** The SI value of a number in a unit. */
export function fromUnit(value: number, unit: Unit): number {
  return value * definition(unit).inSI;
}

/** Shows an SI value with so many significant figures, thin-space thousands and a true minus. */
export function formatQuantity(value: number, unit: Unit, figures = 4): string {
  if (!Number.isFinite(value)) return 'not a number';
  const shown = inUnit(value, unit);
  const size = Math.abs(shown);
  const places = size === 0 ? 0 : Math.max(0, Math.min(6, figures - 1 - Math.floor(Math.log10(size))));
  const [whole, part] = size.toFixed(places).split('.') as [string, string?];
  const grouped = whole.replace(/\B(?=(\d{3})+$)/g, '\u2009');
  const trimmed = part?.replace(/0+$/, '');
  return `${shown < 0 && Number(size.toFixed(places)) !== 0 ? '−' : ''}${grouped}${trimmed ? `.${trimmed}` : ''}`;
}

export type Parsed = { ok: true; value: number } | { ok: false; reason: string };

const PART = /^\s*([+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:e[+-]?\d+)?)\s*([^\d\s+-]*(?:(?<=m|\^)[23])?)\s*/i;

/**
 * Reads what an artist typed: "3cm", "0.4 m", `1'2"`, "-2,5". Without a unit, `shown` is meant.
 * The value is in SI; the reason is a sentence for the artist.
 */
export function parseQuantity(text: string, shown: Unit): Parsed {
  const wanted = definition(shown).dimension;
  let rest = text
    .replace(/−/g, '-')
    .replace(/[\u2009\u00a0]/g, '')
    .trim();
  if (rest === '') return { ok: false, reason: 'Type a number.' };
  let sum = 0;
  let sign = 1;
  for (let first = true; rest !== ''; first = false) {
    const match = PART.exec(rest);
    if (!match) return { ok: false, reason: `“${text.trim()}” is not a number.` };
    const number = Number(match[1]!.replace(',', '.'));
    const unit: Unit | undefined = match[2] === '' ? shown : unitNamed(match[2]!);
    if (unit === undefined) return { ok: false, reason: `“${match[2]}” is not a unit that Lumbra knows.` };
    const given = definition(unit).dimension;
    if (given !== wanted && match[2] !== '') {
      return { ok: false, reason: `${match[2]} does not measure this; it is in ${shown || 'plain numbers'}.` };
    }
    if (first && match[1]!.startsWith('-')) sign = -1;
    sum += fromUnit(Math.abs(number), unit);
    rest = rest.slice(match[0].length);
    if (rest !== '' && match[2] === '') return { ok: false, reason: `“${text.trim()}” is not a number.` };
  }
  if (!Number.isFinite(sum)) return { ok: false, reason: `“${text.trim()}” is not a number.` };
  return { ok: true, value: sign * sum };
}

function unitNamed(text: string): Unit | undefined {
  const wanted = text.toLowerCase();
  return (Object.keys(UNITS) as Unit[]).find(
    (unit) => unit.toLowerCase() === wanted || definition(unit).spellings?.includes(wanted),
  );
}
