import { describe, expect, it } from 'vitest';
import { changeRole } from './changeRole';
import { contactOf, setContact, touches } from './contacts';
import { copiesOf } from './duplicate';
import { createCloth, createCollider, createMount, createShot } from './create';
import { edit } from './edit';
import { removeThing } from './parent';
import type { Shot } from './schema';

const things = () => [
  createCloth({ id: 'hood', name: 'Hood' }),
  createCloth({ id: 'strap', name: 'Strap' }),
  createCollider({ id: 'rail', name: 'Rail' }),
  createMount({ id: 'ferry', name: 'Ferry' }),
];
const start = (): Shot => createShot({ name: 'Table', things: things() });
const changed = (shot: Shot, recipe: (draft: Shot) => void) => edit(shot, 'Change', recipe).shot;

describe('the contact table of a shot', () => {
  const off = changed(start(), (draft) => setContact(draft, 'hood', 'rail', { touches: false }));

  it('says what two things do, in whichever order, and forgets a pair that says nothing', () => {
    expect(touches(off, 'rail', 'hood')).toBe(false);
    expect(touches(off, 'strap', 'rail')).toBe(true);
    const rough = changed(off, (draft) => setContact(draft, 'rail', 'hood', { friction: 1 }));
    expect(rough.contacts).toHaveLength(1);
    expect(contactOf(rough, 'hood', 'rail')).toMatchObject({ touches: false, friction: 1 });
    const back = changed(rough, (draft) => setContact(draft, 'hood', 'rail', { touches: true, friction: null }));
    expect(back.contacts).toEqual([]);
  });

  it('goes with what is deleted, and with two things of which none is cloth any more', () => {
    expect(changed(off, (draft) => removeThing(draft, 'rail')).contacts).toEqual([]);
    expect(changed(off, (draft) => removeThing(draft, 'strap')).contacts).toHaveLength(1);
    expect(changed(off, (draft) => changeRole(draft, 'hood', 'collider')).contacts).toEqual([]);
    expect(changed(off, (draft) => changeRole(draft, 'rail', 'scenery')).contacts).toEqual([]);
  });

  it('holds for copies as for what they are copies of', () => {
    const one = copiesOf(off, ['rail'], new Map());
    expect(one.contacts).toMatchObject([{ between: ['hood', one.things[0]!.id], touches: false }]);
    const both = copiesOf(off, ['hood', 'rail'], new Map());
    expect(both.contacts).toMatchObject([{ between: both.things.map(({ id }) => id), touches: false }]);
    expect(copiesOf(off, ['strap'], new Map()).contacts).toEqual([]);
  });

  it('is refused where a pair stands in it twice, or a cloth with itself', () => {
    const pair = { between: ['hood', 'rail'] as [string, string] };
    const with_ = (contacts: object[]) => () =>
      createShot({ name: 'Table', things: things(), contacts: contacts as never });
    expect(with_([pair, { between: ['rail', 'hood'] }])).toThrow(/twice/);
    expect(with_([{ between: ['hood', 'hood'] }])).toThrow(/with itself/);
    expect(with_([{ ...pair, clearance: -1 }])).toThrow();
    expect(with_([pair])).not.toThrow();
  });
});
