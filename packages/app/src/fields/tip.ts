import { shallowRef, type ObjectDirective } from 'vue';

// Help on a control: said beside it while the pointer rests on it or the keyboard is there, and to those who do not see it. One tooltip
// serves all of them; it is drawn by TipHost.vue.

/** How long the pointer rests before help is shown, in ms. */
const REST = 400;

interface Tipped {
  text: string;
  /** Only shown where the text of the element is cut. */
  onlyCut: boolean;
  /** Whether the name of the element is the help itself. */
  names: boolean;
}

const known = new WeakMap<HTMLElement, Tipped>();

/** What the tooltip says now, and beside what. */
export const shownTip = shallowRef<{ element: HTMLElement; text: string } | null>(null);
let timer = 0;

function show(element: HTMLElement): void {
  const tip = known.get(element);
  if (!tip?.text || !element.isConnected) return;
  const cut = [element, ...element.querySelectorAll<HTMLElement>('.cut')].some(
    (one) => one.scrollWidth > one.clientWidth,
  );
  if (tip.onlyCut && !cut) return;
  shownTip.value = { element, text: tip.text };
}

function hide(): void {
  window.clearTimeout(timer);
  shownTip.value = null;
}

function onEnter(event: Event): void {
  const element = event.currentTarget as HTMLElement;
  window.clearTimeout(timer);
  timer = window.setTimeout(() => show(element), REST);
}

function onFocus(event: Event): void {
  const element = event.currentTarget as HTMLElement;
  if (element.matches(':focus-visible')) show(element);
}

function onKey(event: KeyboardEvent): void {
  if (event.key === 'Escape') hide();
}

/** Tells those who do not see it: as the name where there is no other, else as a description. */
function describe(element: HTMLElement, { text, names }: Tipped): void {
  if (names) element.setAttribute('aria-label', text);
  else if (element.getAttribute('aria-label') !== text) element.setAttribute('aria-description', text);
}

/**
 * `v-tip="'Hide'"`. With `:cut` the text is only shown where it is cut.
 */
export const vTip: ObjectDirective<HTMLElement, string | null | undefined> = {
  mounted(element, { value, arg }) {
    const bare = (element.textContent ?? '').trim() === '' && !element.hasAttribute('aria-label');
    const tip = { text: value ?? '', onlyCut: arg === 'cut', names: bare };
    known.set(element, tip);
    if (tip.text && !tip.onlyCut) describe(element, tip);
    element.addEventListener('pointerenter', onEnter);
    element.addEventListener('pointerleave', hide);
    element.addEventListener('pointerdown', hide);
    element.addEventListener('focusin', onFocus);
    element.addEventListener('focusout', hide);
    element.addEventListener('keydown', onKey);
  },
  updated(element, { value, oldValue }) {
    const tip = known.get(element);
    if (!tip || value === oldValue) return;
    tip.text = value ?? '';
    if (!tip.onlyCut) describe(element, tip);
    if (shownTip.value?.element === element) show(element);
  },
  beforeUnmount(element) {
    if (shownTip.value?.element === element) hide();
  },
};
