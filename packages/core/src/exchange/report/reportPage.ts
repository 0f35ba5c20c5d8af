import { chartScript, type Curve, type Curves } from '@lumbra/charts';
import { formatQuantity } from '../../quantity/units';
import { brokenText } from '../../run/brokenText';
import { keptPromises } from '../../run/keptPromises';
import { namesOf, PROBLEM_KINDS, type Problem } from '../../run/problemFinder';
import { reportProblems, type BakeReport } from '../../run/report';
import { escapeMarkup } from '../escapeMarkup';

/** How a page is made. */
interface PageOptions {
  /** On dark paper. */
  evening?: boolean;
  /** Pictures of the places of problems as data URLs, by the places of the problems in their list. */
  pictures?: ReadonlyMap<number, string>;
}

/**
 * The account of a bake as one page that needs nothing besides: HTML, with its pictures in it, its curves as data, and what draws them.
 * Loaded apart from the rest of core (`@lumbra/core/report`), since it holds the charts.
 */
export function reportPage(report: BakeReport, { evening = false, pictures = new Map() }: PageOptions = {}): string {
  const { shot, settings } = report;
  const title = escapeMarkup([shot.code, shot.name].filter(Boolean).join(' '));
  const frames = report.frames.map(({ frame }) => frame);
  const curves = curvesOf(report);
  const stats = report.frames.map(({ frame, ...own }) => ({ frame, stats: own }));
  const problems = reportProblems(report);
  return `<!doctype html>
<html lang="en"${evening ? ' class="evening"' : ''}>
<head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${title}, bake report</title><style>${STYLE}</style></head>
<body><main>
<h1>${title}</h1>
<p class="lead">${escapeMarkup(promiseText(report, stats))}</p>
${rows(settingsOf(report))}
<h2>Problems</h2>
${problems.length === 0 ? '<p>None was found.</p>' : problemTable(problems, report, pictures)}
<h2>Over the shot</h2>
<noscript><p>The curves are drawn by a script, which was not allowed to run here. The report as a table (CSV) has their numbers.</p></noscript>
${curves.map(curveFigure).join('\n')}
<h2>Identity</h2>
${rows([
  ['Fingerprint of all frames', report.fingerprint],
  ['What the run depended on', report.inputs],
])}
<p class="small">Two bakes with the same fingerprint have the same points, to the bit. ${frames.length} frames, ${settings.frameRate} a second.</p>
</main>
<script type="application/json" id="curves">${withinScript({ frames, curves })}</script>
<script>${chartScript}</script>
</body></html>
`;
}

/** Data in a page: whatever is in it, it does not end the script that holds it. */
const withinScript = (curves: Curves): string => JSON.stringify(curves).replaceAll('<', '\\u003c');

/** The place of a curve, which says the most that it comes to also to those who do not see it. */
function curveFigure({ label, unit, values }: Curve, place: number): string {
  const most = Number(Math.max(0, ...values).toPrecision(3));
  return `<figure><figcaption>${label}${unit ? ` <span>${unit}</span>` : ''}</figcaption>
<div class="curve"><canvas data-curve="${place}" role="img" aria-label="${label} over the frames, at most ${most} ${unit}"></canvas></div></figure>`;
}

type Frames = Parameters<typeof keptPromises>[0];

function promiseText({ things }: BakeReport, stats: Frames): string {
  const kept = keptPromises(stats);
  if (!kept) return 'Nothing was promised: it was baked as a draft, or with substeps by hand.';
  const again = kept.retaken > 0 ? ` ${kept.retaken} of them were taken again for it.` : '';
  if (!kept.worst) return `What the quality promises was kept in all ${kept.frames} frames.${again}`;
  const broken = `It was broken in ${kept.broken} of ${kept.frames} frames.${again}`;
  return `${broken} ${brokenText(kept.worst, (id) => things[id])}`;
}

function settingsOf({ settings: s, frames }: BakeReport): [string, string][] {
  const counts = frames.flatMap(({ substeps }) => substeps ?? []);
  const range = counts.length > 0 ? `${Math.min(...counts)} to ${Math.max(...counts)}` : 'not known';
  const preRoll = s.preRoll > 0 ? `, and ${s.preRoll} before them` : '';
  return [
    ['Frames', `${s.firstFrame} to ${s.lastFrame} at ${s.frameRate} a second${preRoll}`],
    ['Quality', s.quality],
    ['Substeps', s.substeps === null ? `${range}, as each frame needs` : `${s.substeps}, set by hand`],
    [
      'Promised',
      s.promise
        ? `at most ${formatQuantity(s.promise.stretch, '%')} % of false stretch, nothing passes through`
        : 'nothing',
    ],
  ];
}

function curvesOf({ frames, settings }: BakeReport): Curve[] {
  const timed = frames.some(({ took }) => took !== undefined);
  const limit = settings.promise ? { limit: settings.promise.stretch * 100 } : {};
  return [
    {
      label: 'Worst stretch beyond what the fabric gives',
      unit: '%',
      values: frames.map((f) => (f.falseStretch ?? f.maxStretch) * 100),
      ...limit,
    },
    { label: 'Mean stretch', unit: '%', values: frames.map((f) => f.meanStretch * 100) },
    { label: 'Fastest point', unit: 'm/s', values: frames.map((f) => f.fastest) },
    { label: 'Energy of motion', unit: 'J', values: frames.map((f) => f.kineticEnergy) },
    { label: 'Contacts', unit: '', values: frames.map((f) => f.contacts) },
    { label: 'Substeps', unit: '', values: frames.map((f) => f.substeps ?? 0) },
    ...(timed ? [{ label: 'Time to compute', unit: 's', values: frames.map((f) => f.took ?? 0) }] : []),
  ];
}

function problemTable(
  problems: readonly Problem[],
  { things }: BakeReport,
  pictures: ReadonlyMap<number, string>,
): string {
  const lines = problems.map(({ kind, from, to, worst, value, place, things: concerned }, i) => {
    const at = place ? place.map((one) => one.toFixed(3)).join(', ') : '';
    const cells = [
      from === to ? from : `${from} to ${to}`,
      worst,
      `${PROBLEM_KINDS[kind].title}, ${PROBLEM_KINDS[kind].amount(value)}`,
      namesOf(concerned, (id) => things[id]),
      at,
    ];
    const picture = pictures.get(i);
    const seen = picture
      ? `<tr><td colspan="5"><img src="${escapeMarkup(picture)}" alt="Frame ${worst} at that place"></td></tr>`
      : '';
    return `<tr>${cells.map((one) => `<td>${escapeMarkup(String(one))}</td>`).join('')}</tr>${seen}`;
  });
  return `<table><thead><tr><th>Frames</th><th>Worst at</th><th>What</th><th>Things</th><th>Place, m</th></tr></thead><tbody>${lines.join('')}</tbody></table>`;
}

function rows(entries: readonly (readonly [string, string])[]): string {
  return `<dl>${entries.map(([name, value]) => `<dt>${escapeMarkup(name)}</dt><dd>${escapeMarkup(value)}</dd>`).join('')}</dl>`;
}

const STYLE = `:root{--paper:#fbf9f4;--ink:#23262d;--quiet:#5d5f66;--rule:#d6d1c4;--line:#2d4a7c;--limit:#a8443a}
.evening{--paper:#1c1f26;--ink:#ece8dd;--quiet:#a9aab0;--rule:#3a3e48;--line:#8fb0ea;--limit:#e58a7d}
body{margin:0;background:var(--paper);color:var(--ink);font:14px/1.5 system-ui,sans-serif}
main{max-width:680px;margin:0 auto;padding:24px 20px 48px}
h1{font-size:22px;margin:0 0 4px}h2{font-size:15px;margin:28px 0 8px}
.lead{margin:0 0 16px}.small,figcaption span{color:var(--quiet)}
dl{display:grid;grid-template-columns:max-content 1fr;gap:2px 16px;margin:0}dt{color:var(--quiet)}dd{margin:0;overflow-wrap:anywhere}
table{border-collapse:collapse;width:100%}th,td{text-align:left;padding:4px 8px 4px 0;border-bottom:1px solid var(--rule);font-weight:400}th{color:var(--quiet)}
figure{margin:0 0 14px}figcaption{font-weight:600}figcaption span{font-weight:400}
.curve{position:relative;height:112px}
img{display:block;max-width:100%;border:1px solid var(--rule);border-radius:4px;margin:4px 0 12px}`;
