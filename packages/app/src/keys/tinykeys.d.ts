// The package has types, but does not say where they are.
declare module 'tinykeys' {
  export function tinykeys(
    target: Window | HTMLElement,
    bindings: Record<string, (event: KeyboardEvent) => void>,
    options?: { event?: 'keydown' | 'keyup'; capture?: boolean; timeout?: number },
  ): () => void;
}
