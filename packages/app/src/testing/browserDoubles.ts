// Set up for every unit test: what a browser or another tab would do, done by stand-ins.
import 'fake-indexeddb/auto';
import { vi } from 'vitest';

// No other tab has the shot, and none takes it over.
vi.mock('../storage/shotLock', () => ({
  takeTake: vi.fn(() => Promise.resolve(() => undefined)),
  takeShot: vi.fn(() => Promise.resolve({ lost: new Promise(() => undefined), release: () => undefined })),
  waitForShot: vi.fn(() => new Promise(() => undefined)),
}));
// Messages are not drawn; tests look at what was said.
vi.mock('element-plus/es/components/message/index.mjs', () => ({
  ElMessage: vi.fn(() => ({ close: vi.fn() })),
}));
