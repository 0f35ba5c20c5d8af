/** What is dragged from the Stage into the viewport: a kind of thing. */
export const THING_TYPE = 'application/x-lumbra-thing';
