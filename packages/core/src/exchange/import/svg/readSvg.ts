import { ReadError } from '../../readError';
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { nest, placeLine, type Outline } from './nest';
import { closedPaths, TooLargeError } from './closedPaths';
import type { PatternNode } from '../../../pattern/schema';
import { SHAPE_PATHS } from './shapePath';
import { lengthOf, PIXEL } from './units';

/** What was found in a drawing. */
export interface SvgOutlines {
  outlines: Outline[];
  /** What was not taken, in words. */
  leftOut: string[];
}

/** Characters of a drawing; larger ones are not of outlines. */
const LARGEST = 30_000_000;
/** Elements inside of each other. */
const DEEPEST = 200;
/** Elements that hold others and are drawn. */
const GROUPS = new Set(['svg', 'g', 'a', 'switch']);
/** What is never drawn where it stands. */
const SILENT = new Set([
  'defs',
  'symbol',
  'title',
  'desc',
  'metadata',
  'style',
  'script',
  'lineargradient',
  'radialgradient',
  'marker',
]);

type Node = Record<string, unknown> & { ':@'?: Record<string, string> };

/**
 * The closed outlines of an SVG drawing, in m: every path command and basic shape, transforms, units and viewBox; what lies inside of an outline is a hole of
 * it, and an open path in dashes a crease. v points up, around the middle of each outline.
 * @throws ReadError when there is nothing to take
 */
export function readSvg(text: string): SvgOutlines {
  if (text.length > LARGEST)
    throw new ReadError('The file is larger than 30 MB. Keep only the outlines in it, and save it anew.');
  const valid = XMLValidator.validate(text, { allowBooleanAttributes: true });
  if (valid !== true)
    throw new ReadError(`It is not a whole SVG file (line ${valid.err.line}: ${valid.err.msg}). Save it anew as SVG.`);
  const parser = new XMLParser({
    ...{ preserveOrder: true, ignoreAttributes: false, attributeNamePrefix: '', parseAttributeValue: false },
    ...{ removeNSPrefix: true, processEntities: false, allowBooleanAttributes: true },
  });
  const root = (parser.parse(text) as Node[]).find((node) => tagOf(node) === 'svg');
  if (!root) throw new ReadError('It has no <svg> in it.');
  const drawing = new Drawing(root);
  drawing.walk(root, [], 0);
  const outlines = nest(drawing.paths);
  for (const line of drawing.lines)
    if (!placeLine(line, outlines)) drawing.leaveOut('a dashed line outside of the outlines');
  if (outlines.length === 0) {
    const others = drawing.leftOut().length > 0 ? ` Left out: ${drawing.leftOut().join('; ')}.` : '';
    throw new ReadError(`It has no closed outline. Close the paths that are to be cut, and save it anew.${others}`);
  }
  return { outlines, leftOut: drawing.leftOut() };
}

function tagOf(node: Node): string {
  return Object.keys(node).find((key) => key !== ':@') ?? '';
}

class Drawing {
  readonly paths: { name: string; nodes: PatternNode[] }[] = [];
  /** Open paths that are drawn in dashes. */
  readonly lines: PatternNode[][] = [];
  readonly #counts = new Map<string, number>();
  /** Width and height of the page in pixels of the drawing. */
  readonly #page: readonly [number, number];
  /** From pixels of the drawing to m. */
  readonly #scale: readonly [number, number];

  constructor(root: Node) {
    const a = root[':@'] ?? {};
    const box = (a['viewBox'] ?? '')
      .trim()
      .split(/[\s,]+/)
      .map(Number);
    const hasBox = box.length === 4 && box.every(Number.isFinite) && box[2]! > 0 && box[3]! > 0;
    const width = lengthOf(a['width'] ?? (hasBox ? box[2] : 300), hasBox ? box[2]! : 300);
    const height = lengthOf(a['height'] ?? (hasBox ? box[3] : 150), hasBox ? box[3]! : 150);
    this.#page = hasBox ? [box[2]!, box[3]!] : [width ?? 300, height ?? 150];
    const across = hasBox && width ? width / box[2]! : 1;
    const down = hasBox && height ? height / box[3]! : across;
    // As a page shows it: the drawing keeps its proportions unless it says otherwise.
    const stretched = (a['preserveAspectRatio'] ?? '').trim().startsWith('none');
    const even = Math.min(across, down);
    this.#scale = stretched ? [across * PIXEL, down * PIXEL] : [even * PIXEL, even * PIXEL];
  }

  leaveOut(what: string): void {
    this.#counts.set(what, (this.#counts.get(what) ?? 0) + 1);
  }

  leftOut(): string[] {
    return [...this.#counts].map(([what, count]) => (count > 1 ? `${count} × ${what}` : what));
  }

  walk(node: Node, transforms: readonly string[], depth: number): void {
    const tag = tagOf(node);
    const attributes = node[':@'] ?? {};
    const name = tag.toLowerCase();
    if (tag.startsWith('#') || tag.startsWith('?') || SILENT.has(name)) return;
    if (isHidden(attributes)) return this.leaveOut('something hidden');
    if (depth > DEEPEST) return this.leaveOut(`what is more than ${DEEPEST} groups deep`);
    const inner = attributes['transform'] ? [...transforms, attributes['transform']] : transforms;
    if (GROUPS.has(name)) {
      for (const child of node[tag] as Node[]) this.walk(child, inner, depth + 1);
      return;
    }
    const shape = SHAPE_PATHS[name];
    if (!shape) return this.leaveOut(`<${tag}>`);
    const d = shape(attributes, this.#page);
    if (!d) return this.leaveOut(`<${tag}> without a size`);
    try {
      const { closed, open } = closedPaths(d, inner, this.#scale);
      const label = attributes['id'] ?? attributes['label'] ?? '';
      for (const nodes of closed) this.paths.push({ name: label, nodes });
      for (const nodes of open) {
        if (isDashed(attributes)) this.lines.push(nodes);
        else this.leaveOut(name === 'line' ? 'a line' : 'an open path');
      }
      if (closed.length === 0 && open.length === 0) this.leaveOut(name === 'line' ? 'a line' : `<${tag}> of no area`);
    } catch (error) {
      if (!(error instanceof TooLargeError)) return this.leaveOut(`<${tag}> that cannot be read`);
      this.leaveOut(error.message);
    }
  }
}

function isHidden(attributes: Record<string, string>): boolean {
  const style = attributes['style'] ?? '';
  return (
    attributes['display'] === 'none' ||
    attributes['visibility'] === 'hidden' ||
    /(^|;)\s*(display\s*:\s*none|visibility\s*:\s*hidden)/.test(style)
  );
}

function isDashed(attributes: Record<string, string>): boolean {
  const inStyle = /(^|;)\s*stroke-dasharray\s*:\s*([^;]*)/.exec(attributes['style'] ?? '')?.[2];
  const dashes = (inStyle ?? attributes['stroke-dasharray'] ?? 'none').trim();
  return dashes !== '' && dashes !== 'none' && /[1-9]/.test(dashes);
}
