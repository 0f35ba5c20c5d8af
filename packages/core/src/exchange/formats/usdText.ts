import { writeText } from '../usd/writeText';
import { usdFormat } from './usdFormat';

export const usdText = usdFormat(
  { id: 'usda', label: 'USD as text', note: 'to read, a sample a frame', type: 'text/plain' },
  writeText,
);
