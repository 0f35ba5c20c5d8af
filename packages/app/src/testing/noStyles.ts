// In place of the styles of components, where nothing is drawn.
export {};
