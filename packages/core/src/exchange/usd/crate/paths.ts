import { Bytes } from './bytes';
import { packIntegers } from './integers';
import type { CrateTokens } from './tokens';

/** A place in a layer: the root, a prim, or a property of one. */
export interface CratePath {
  name: string;
  isProperty: boolean;
  children: CratePath[];
}

/** All paths of a tree from the top, each before those under it: so they are numbered. */
export function pathsInOrder(root: CratePath): CratePath[] {
  return [root, ...root.children.flatMap(pathsInOrder)];
}

/** The tree of paths: of each its number, its name, and where the next beside it is. */
export function pathSection(root: CratePath, tokens: CrateTokens): Uint8Array {
  const names: number[] = [];
  const jumps: number[] = [];
  const add = (path: CratePath, isLast: boolean): void => {
    const own = names.length;
    const token = tokens.token(path.name);
    names.push(path.isProperty ? -token : token);
    jumps.push(0);
    path.children.forEach((child, i) => add(child, i === path.children.length - 1));
    const hasChildren = path.children.length > 0;
    if (hasChildren) jumps[own] = isLast ? -1 : names.length - own;
    else jumps[own] = isLast ? -2 : 0;
  };
  add(root, true);
  const bytes = new Bytes().u64(names.length).u64(names.length);
  for (const column of [names.map((_, i) => i), names, jumps]) putPacked(bytes, column);
  return bytes.taken();
}

/** Packed whole numbers behind their length in bytes. */
export function putPacked(bytes: Bytes, numbers: readonly number[]): Bytes {
  const packed = packIntegers(numbers);
  return bytes.u64(packed.length).bytes(packed);
}
