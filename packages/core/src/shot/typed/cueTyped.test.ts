import { describe, expect, it } from 'vitest';
import { createCloth, createCollider, createPinSet, createShot } from '../create';
import { edit } from '../edit';
import type { Cloth, Shot } from '../schema';
import { offersFor } from './offers';
import { readTypedLine } from './readTypedLine';

const pins = createPinSet({ id: 'ice', name: 'Ice', points: [0, 1] });
const apron = createCloth({ id: 'apron', name: 'Apron', pinSets: [pins] });
const lamp = createCollider({ id: 'lamp', name: 'Lamp' });
const low = createCollider({ id: 'low', name: 'Lamp, low' });
const shotOf = (...things: Shot['things']) => createShot({ name: 'Night', things });
const one = shotOf(apron, lamp, low);

function cuesOf(text: string, shot = one): Cloth['cues'] {
  const read = readTypedLine(text, shot);
  if (!read.ok) throw new Error(read.reason);
  const done = edit(shot, text, (draft) => void read.line.apply(draft)).shot;
  return (done.things[0] as Cloth).cues;
}

describe('cues in words', () => {
  it('are one for each number, of both ways of the fabric where none is named', () => {
    const cues = cuesOf('when Apron touches Lamp within 34 cm then bend 4 curl weft 0 over 14 spread 5 cm');
    expect(cues.map(({ number, to }) => [number, to])).toEqual([
      ['bendWarp', 4e-6],
      ['bendWeft', 4e-6],
      ['curlWeft', 0],
    ]);
    for (const cue of cues) {
      expect(cue).toMatchObject({ of: null, over: 14, spread: 0.05, onAll: false, lasts: false });
      expect(cue.when).toEqual({ kind: 'touch', thing: 'lamp', within: 0.34 });
    }
  });

  it.each<[string, object]>([
    ['when touches Lamp, low then damping 20', { when: { kind: 'touch', thing: 'low', within: 0.005 } }],
    ['when it is stretched 3 % then stretch warp goes to 50', { when: { kind: 'stretched', beyond: 0.03 } }],
    ['when faster than 2 m/s then bend, weft 9 everywhere', { when: { kind: 'faster', than: 2 }, onAll: true }],
    ['when frame 40 then lamp, friction 0.9 over 6', { of: 'lamp', number: 'friction', when: { frame: 40 }, over: 6 }],
    ['when inside Lamp then damping 20 while it lasts', { when: { kind: 'inside', thing: 'lamp' }, lasts: true }],
    ['when let go from Ice then bend 4', { when: { kind: 'released', hold: 'ice' } }],
  ])('%s', (text, expected) => {
    expect(cuesOf(text)[0]).toMatchObject(expected);
  });

  it.each([
    ['when Apron touches Lamp', /what then changes/],
    ['when Apron melts then bend 4', /“melts” cannot be waited for/],
    ['when Apron touches Moon then bend 4', /which thing: Lamp, Lamp, low/],
    ['when mask then bend 4', /no mask yet/],
    ['when Apron touches Lamp then bend', /where bend goes/],
    ['when Apron touches Lamp then colour 4', /“colour” is no number/],
    ['when Apron touches Lamp then over 4', /which number changes/],
    ['when Apron touches Lamp then bend -4', /cannot be/],
  ])('says what is wrong with “%s”', (text, reason) => {
    const read = readTypedLine(text, one);
    expect(read.ok ? '' : read.reason).toMatch(reason);
  });

  it('ask for the cloth only where there are several', () => {
    const two = shotOf(apron, createCloth({ id: 'b', name: 'Scarf' }), lamp);
    const read = readTypedLine('when touches Lamp then bend 4', two);
    expect(read.ok ? '' : read.reason).toBe('Say which cloth it is of: Apron, Scarf.');
    expect(cuesOf('when apron touches lamp then bend 4', two)).toHaveLength(2);
    const none = readTypedLine('when touches Lamp then bend 4', shotOf(lamp));
    expect(none.ok ? '' : none.reason).toMatch(/no cloth yet/);
  });

  it('are offered', () => {
    expect(offersFor('wh')[0]).toMatch(/^when /);
  });
});
