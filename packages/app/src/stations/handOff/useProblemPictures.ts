import { activeCloths, reportProblems, type BakeReport, type Shot } from '@lumbra/core';
import { useDocumentStore } from '../../session/document';
import { useTakesStore } from '../../stores/takes';
import { useThemeStore } from '../../stores/theme';
import { readFrame } from '../../storage/takes';
import { markedPicture } from '../../viewport/markedPicture';
import { PictureView } from '../../viewport/pictureView';

/** In pixels; as wide as the page of a report. */
const SIZE = { width: 640, height: 360 };
/** From so near a place is looked at, in m. */
const NEAR = 0.5;
/** More problems than this are only told of: pages stay small enough to be sent. */
const MOST = 8;

/** Pictures of the places of what went wrong in the take that is looked at, from the side that the shot is looked at from. */
export function useProblemPictures() {
  const document = useDocumentStore();
  const takes = useTakesStore();
  const theme = useThemeStore();

  /** As data URLs, by the places of the problems in the report. Without WebGL, and where a frame cannot be read, there is none. */
  return async (report: BakeReport, shot: Shot): Promise<Map<number, string>> => {
    const made = new Map<number, string>();
    const problems = [...reportProblems(report).entries()].filter(([, { place }]) => place).slice(0, MOST);
    if (problems.length === 0) return made;
    const cloths = activeCloths(shot);
    const { position, target } = shot.camera;
    const away = position.map((value, axis) => value - target[axis]!);
    const far = Math.hypot(...away) || 1;
    let view: PictureView | null = null;
    try {
      view = new PictureView({
        shot,
        assets: document.currentAssets(),
        mode: 'print',
        evening: theme.evening,
        ...SIZE,
      });
      for (const [i, { worst, place }] of problems) {
        const { stats } = takes.byFrame.get(worst)!;
        const own = takes.cache.get(worst) ?? (await readFrame(takes.take!.id, worst, stats));
        view.lookFrom(
          place!.map((value, axis) => value + (NEAR * away[axis]!) / far),
          place!,
        );
        const positions = new Map(cloths.map(({ id }, n) => [id, own[n]!]));
        made.set(i, await markedPicture(await view.take(worst, positions, new Map()), '#A8443A'));
      }
    } catch {
      // A report without pictures says what went wrong all the same.
    } finally {
      view?.dispose();
    }
    return made;
  };
}
