/** What can be printed, as it is offered. */
export const PRINTS = [
  { id: 'plain', label: 'Plain' },
  { id: 'stripe', label: 'Stripe' },
  { id: 'check', label: 'Check' },
  { id: 'dots', label: 'Dots' },
  { id: 'picture', label: 'Picture' },
] as const;
