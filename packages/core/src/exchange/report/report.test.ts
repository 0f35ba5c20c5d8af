import type { Curves } from '@lumbra/charts';
import { describe, expect, it } from 'vitest';
import { BakeRun } from '../../run/bakeRun';
import type { FrameStats } from '../../run/frame';
import { bakeReport } from '../../run/report';
import { createCloth, createCollider, createShot } from '../../shot/create';
import { reportPage } from './reportPage';
import { reportTable } from './reportTable';

const shape = { kind: 'sheet', width: 0.4, height: 0.4, spacing: 0.05 } as const;
const shot = createShot({
  ...{ name: 'Crates & <covers>', code: 'NF1', lastFrame: 8 },
  things: [
    createCloth({ id: 'c', name: 'Cover, "wide"', shape, position: [0, 0.5, 0] }),
    createCollider({ id: 'b', name: 'Box', shape: { kind: 'box' } }),
  ],
});
const run = new BakeRun(shot, new Map());
const baked = Array.from({ length: 8 }, () => run.next());
const of = (change: (stats: FrameStats, frame: number) => FrameStats = (stats) => stats) =>
  bakeReport(
    shot,
    'inputs',
    baked.map(({ frame, stats }) => ({ frame, stats: change(stats, frame) })),
  );

/** What the curves of a page are drawn from. */
const curvesIn = (page: string) => JSON.parse(/id="curves">(.*?)<\/script>/.exec(page)![1]!) as Curves;

/** The cells of a table as RFC 4180 has it. */
function cellsOf(text: string): string[][] {
  return text
    .trimEnd()
    .split('\r\n')
    .map((line) =>
      [...line.matchAll(/(?:^|,)(?:"((?:[^"]|"")*)"|([^,]*))/g)].map(
        ([, quoted, plain]) => quoted?.replaceAll('""', '"') ?? plain!,
      ),
    );
}

describe('the report of a bake', () => {
  it('is a table with a row a frame, whose numbers are those of the frames', () => {
    const [head, ...rows] = cellsOf(reportTable(of((stats) => ({ ...stats, stretchIn: 'c' }))));
    expect(rows).toHaveLength(8);
    const column = (name: string, row: number) => rows[row]![head!.indexOf(name)];
    baked.forEach(({ frame, stats }, row) => {
      expect(Number(column('frame', row))).toBe(frame);
      expect(Number(column('fastest', row))).toBe(stats.fastest);
      expect(column('fingerprint', row)).toBe(stats.fingerprint);
      expect(column('stretchIn', row)).toBe('Cover, "wide"');
    });
    expect(new Set(rows.map((row) => row.length))).toEqual(new Set([head!.length]));
  });

  it('is a page that needs nothing from elsewhere, with what was promised and its curves', () => {
    const page = reportPage(of());
    expect(page).toContain('<h1>NF1 Crates &amp; &lt;covers&gt;</h1>');
    expect(page).toContain('was kept in all 8 frames');
    expect(page).toContain('None was found.');
    expect(page).toContain(of().fingerprint);
    const markup = page.replace(/<script[^]*?<\/script>/g, '');
    expect(markup).not.toMatch(/src=|href=|url\(/);
    expect(markup.match(/<canvas data-curve/g)).toHaveLength(curvesIn(page).curves.length);
    expect(page.match(/<script src|<script[^>]*https?:/)).toBeNull();
  });

  it('draws the numbers of its frames, with how long each took where that is known', () => {
    const { frames, curves } = curvesIn(reportPage(of()));
    expect(frames).toEqual(baked.map(({ frame }) => frame));
    expect(curves.map(({ label }) => label)).not.toContain('Time to compute');
    expect(curves.find(({ label }) => label === 'Fastest point')!.values).toEqual(
      baked.map(({ stats }) => stats.fastest),
    );
    const took = baked.map((_, i) => 0.25 * i);
    const timed = bakeReport(
      shot,
      'inputs',
      baked.map(({ frame, stats }, i) => ({ frame, stats, took: took[i]! })),
    );
    expect(curvesIn(reportPage(timed)).curves.at(-1)).toEqual({ label: 'Time to compute', unit: 's', values: took });
    expect(cellsOf(reportTable(timed))[3]![4]).toBe('0.5');
  });

  it('says where a promise was broken, by what, and what helps', () => {
    const page = reportPage(
      of((stats, frame) =>
        frame === 5
          ? { ...stats, kept: false, broke: 'pierced', pierced: 3, piercedIn: 'b', piercedAt: [0.1, 0.2, 0.3] }
          : stats,
      ),
    );
    expect(page).toContain('broken in 1 of 8 frames');
    expect(page).toContain('3 faces pass through Box');
    expect(page).toContain('<td>5</td><td>5</td><td>Pierced, 3 faces</td><td>Box</td><td>0.100, 0.200, 0.300</td>');
  });

  it('shows a picture of the place of a problem, where there is one', () => {
    const report = of((stats, frame) =>
      frame === 5 ? { ...stats, pierced: 3, piercedIn: 'b', piercedAt: [0.1, 0.2, 0.3] } : stats,
    );
    const page = reportPage(report, { pictures: new Map([[0, 'data:image/jpeg;base64,AAAA']]) });
    expect(page.match(/<img src="data:image\/jpeg;base64,AAAA" alt="Frame 5 at that place">/g)).toHaveLength(1);
    expect(reportPage(report)).not.toContain('<img');
  });

  it('is made of a take of one frame, and of one without promises', () => {
    const one = bakeReport({ ...shot, run: { ...shot.run, quality: 'draft' } }, 'x', [
      { frame: 1, stats: { ...baked[0]!.stats, kept: null } },
    ]);
    const page = reportPage(one, { evening: true });
    expect(page).toContain('Nothing was promised');
    expect(page.replace(/<script>[^]*<\/script>/, '')).not.toMatch(/NaN|Infinity/);
  });
});
