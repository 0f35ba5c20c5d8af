/** The demo production itself, without its shots: what says whether it is there. */
export const PRODUCTION = {
  id: 'night-ferry',
  name: 'Night Ferry',
  note: 'A small ferry landing on a river at night. Every shot opens ready to run.',
} as const;
