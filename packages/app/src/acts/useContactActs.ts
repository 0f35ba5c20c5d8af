import { contactOf, setContact, type Cloth, type Collider, type Contact } from '@lumbra/core';
import { useDocumentStore } from '../session/document';

/** What a pair may have otherwise than its things. */
export type PairChange = Partial<Omit<Contact, 'between'>>;

/** The acts on the contact table; each is one undoable edit. */
export function useContactActs() {
  const document = useDocumentStore();

  function change(cloth: Cloth, other: Cloth | Collider, what: string, to: PairChange, live = false): void {
    const merge = live ? `contact.${cloth.id}.${other.id}.${what}` : null;
    document.edit(
      `${cloth.name} and ${other.name}, ${what}`,
      (draft) => setContact(draft, cloth.id, other.id, to),
      merge,
    );
  }

  /** Lets two things touch, or pass through each other; a cloth with itself is its self-contact. */
  function flip(cloth: Cloth, other: Cloth | Collider): void {
    if (cloth.id === other.id) return changeSelf(cloth, 'self-contact', { enabled: !cloth.selfContact.enabled });
    const touch = contactOf(document.shot!, cloth.id, other.id)?.touches ?? true;
    change(cloth, other, touch ? 'pass through each other' : 'touch', { touches: !touch });
  }

  function changeSelf(cloth: Cloth, what: string, to: Partial<Cloth['selfContact']>): void {
    document.edit(`${cloth.name}, ${what}`, (draft) => {
      const found = draft.things.find(({ id }) => id === cloth.id);
      if (found?.role === 'cloth') Object.assign(found.selfContact, to);
    });
  }

  return { change, flip, changeSelf };
}
