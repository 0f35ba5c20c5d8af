import type { PictureFormat } from './pictureFormat';
import { pngPictures } from './pngPictures';
import { webmFilm } from './webmFilm';

/** The ways to write what the view shows of a take. */
export const PICTURE_FORMATS: readonly PictureFormat[] = [pngPictures, webmFilm];
