/** A document as it was read, before anything is known of it but its version. */
export type RawDocument = Record<string, unknown>;

/** Makes a document of the next version. Pure: what it is given is not changed. */
export type Upgrade = (document: RawDocument) => RawDocument;

/**
 * UPGRADES[n] makes version n + 1 of version n. Files, kept rows, takes and undo lists all go through it; the names that older
 * versions used stand nowhere else. Version 1 is the first.
 */
export const UPGRADES: Readonly<Record<number, Upgrade>> = {};
