/** The middle of some numbers; the machine is shared, so means are worth little. */
export function median(values: readonly number[]): number {
  return [...values].sort((a, b) => a - b)[values.length >> 1]!;
}

/** One line of a table: the first cell to the left, all others to the right. */
export function row(first: string, ...cells: string[]): void {
  console.log([first.padEnd(34), ...cells.map((cell) => cell.padStart(14))].join(''));
}
