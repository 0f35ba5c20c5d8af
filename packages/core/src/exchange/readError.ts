/** A file could not be read. The message is for the artist: what is wrong, and where in the file. */
export class ReadError extends Error {}
