/** A document as it was read, before anything is known of it but its version. */
export type RawDocument = Record<string, unknown>;

/** Makes a document of the next version. Pure: what it is given is not changed. */
export type Upgrade = (document: RawDocument) => RawDocument;

/** A document cannot be brought up to date. The message names the place, for whoever wrote the file. */
export class UpgradeError extends Error {}
