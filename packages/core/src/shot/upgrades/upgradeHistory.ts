import { applyPatches } from 'immer';
import type { Edit } from '../edit';
import { difference } from '../difference';
import type { RawDocument } from './index';
import { UPGRADE_DEFAULTS, upgradeDocument } from './upgradeDocument';

export interface History {
  /** In the order in which they were made. */
  done: Edit[];
  /** The one that is redone first comes last. */
  undone: Edit[];
}

/**
 * Brings the undo list of an older document along. Patches know nothing of versions, so every state of the document that the list leads
 * to is made, upgraded and compared with the next. Edits that cannot be followed end the list there: what comes nearer to now is kept.
 */
export function upgradeHistory(document: RawDocument, history: History, options = UPGRADE_DEFAULTS): History {
  if (document['version'] === options.to) return history;
  return {
    done: walk(document, [...history.done].reverse(), 'backward', options).reverse(),
    undone: walk(document, [...history.undone].reverse(), 'forward', options).reverse(),
  };
}

/** Edits one after the other away from a document, each as the difference between upgraded documents. */
function walk(
  document: RawDocument,
  edits: readonly Edit[],
  way: 'forward' | 'backward',
  options: typeof UPGRADE_DEFAULTS,
): Edit[] {
  const made: Edit[] = [];
  let old = document;
  let current = upgradeDocument(old, options);
  for (const edit of edits) {
    try {
      old = applyPatches(old, edit[way]);
    } catch {
      break;
    }
    const next = upgradeDocument(old, options);
    const [before, after] = way === 'forward' ? [current, next] : [next, current];
    made.push(difference(edit.label, before, after));
    current = next;
  }
  return made;
}
