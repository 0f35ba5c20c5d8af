import { tinykeys } from 'tinykeys';
import { onMounted, onScopeDispose } from 'vue';
import { useThingActs } from '../acts/useThingActs';
import { isDragging } from '../pointer/followDrag';
import { useDocumentStore } from '../session/document';
import { useFinishedStore } from '../stores/finished';
import { useKeyingStore } from '../stores/keying';
import { usePatternStore } from '../stores/pattern';
import { useRunStore } from '../stores/run';
import { useSelectionStore } from '../stores/selection';
import { useUndoStore } from '../stores/undo';
import { BINDINGS, SCOPES, type Bench, type Binding, type Scope } from './bindings';

/** The narrower a scope, the earlier it is asked. */
const ORDER: readonly Scope[] = ['live pins', 'live run', 'keys', 'pattern', 'stage', 'bench'];

/** What takes keys for itself: fields, lists, and what is chosen from. */
const TYPING =
  'input:not([type="checkbox"]):not([type="radio"]), textarea, select, [contenteditable="true"], [role="combobox"], [role="listbox"]';
/** What has its own space and enter. */
const PRESSED = 'button, a, input, [role="button"], [role="treeitem"], [role="option"], summary';

/** Whether a press is meant for something else than the bench: a field, a dialogue, a menu, a drag. */
export function isTaken(event: KeyboardEvent): boolean {
  const target = event.target instanceof Element ? event.target : null;
  if (event.altKey || event.isComposing || event.defaultPrevented || isDragging()) return true;
  if (target?.closest('.el-popper')) return true;
  // A list that is only chosen from keeps its keys, but not those with ctrl; a row of choices keeps its arrows.
  const chosenFrom = target?.matches('[role="combobox"][readonly]') === true && (event.ctrlKey || event.metaKey);
  if (target?.matches(TYPING) && !chosenFrom) return true;
  if (target?.matches('input[type="radio"]') && event.key.startsWith('Arrow')) return true;
  if ([...document.querySelectorAll('[role="dialog"][aria-modal="true"]')].some((dialog) => isShown(dialog)))
    return true;
  return event.key === ' ' && target?.matches(PRESSED) === true;
}

function isShown(element: Element): boolean {
  return element.checkVisibility?.() ?? true;
}

/** Does what the keys of the bench say, as long as it is there. */
export function useBenchKeys(view: Pick<Bench, 'centre' | 'showKeys' | 'play'>): void {
  const bench: Bench = {
    ...view,
    document: useDocumentStore(),
    run: useRunStore(),
    selection: useSelectionStore(),
    keying: useKeyingStore(),
    undoing: useUndoStore(),
    finished: useFinishedStore(),
    pattern: usePatternStore(),
    acts: useThingActs(),
  };

  function press(bindings: readonly Binding[], event: KeyboardEvent): void {
    if (isTaken(event)) return;
    const found = bindings.find(({ scope }) => SCOPES[scope].holds(bench));
    if (!found) return;
    event.preventDefault();
    found.act(bench, event.key.toLowerCase());
  }

  const byKey = new Map<string, Binding[]>();
  const ordered = [...BINDINGS].sort((a, b) => ORDER.indexOf(a.scope) - ORDER.indexOf(b.scope));
  for (const binding of ordered) {
    for (const key of binding.keys) byKey.set(key, [...(byKey.get(key) ?? []), binding]);
  }
  let stop: (() => void) | null = null;
  onMounted(() => {
    stop = tinykeys(
      window,
      Object.fromEntries([...byKey].map(([key, bindings]) => [key, (event: KeyboardEvent) => press(bindings, event)])),
    );
  });
  onScopeDispose(() => stop?.());
}
