import type { CacheFormat } from './format';
import { glbMotion } from './glbMotion';
import { objSequence } from './objSequence';
import { plySequence } from './plySequence';
import { stlSequence } from './stlSequence';
import { usdBinary } from './usdBinary';
import { usdText } from './usdText';

export * from './fileSink';
export * from './format';

/** The formats in which the motion of cloth is written, in the order in which they are offered. To add one: a file here, and a line in this list. */
export const CACHE_FORMATS: readonly CacheFormat[] = [
  usdBinary,
  usdText,
  glbMotion,
  objSequence,
  plySequence,
  stlSequence,
];
