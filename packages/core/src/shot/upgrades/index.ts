import { fromVersion1 } from './fromVersion1';
import { fromVersion2 } from './fromVersion2';
import { fromVersion3 } from './fromVersion3';
import type { Upgrade } from './upgrade';

export * from './upgrade';

/**
 * UPGRADES[n] makes version n + 1 of version n. Files, kept rows, takes and undo lists all go through it; the names that older
 * versions used stand nowhere else. Version 1 is the first.
 */
export const UPGRADES: Readonly<Record<number, Upgrade>> = { 1: fromVersion1, 2: fromVersion2, 3: fromVersion3 };
