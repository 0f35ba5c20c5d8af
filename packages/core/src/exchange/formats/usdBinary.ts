import { writeCrate } from '../usd/crate/writeCrate';
import { usdFormat } from './usdFormat';

export const usdBinary = usdFormat(
  { id: 'usdc', label: 'USD with motion', note: 'binary, a sample a frame', type: 'application/octet-stream' },
  writeCrate,
);
