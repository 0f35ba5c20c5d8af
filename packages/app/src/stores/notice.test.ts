import { ElMessage } from 'element-plus/es/components/message/index.mjs';
import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { useNoticeStore } from './notice';

/** What was closed, in the order of the messages. */
const closed = () => vi.mocked(ElMessage).mock.results.map(({ value }) => vi.mocked(value.close).mock.calls.length);

describe('problems that are said', () => {
  beforeEach(() => {
    vi.clearAllMocks();
    setActivePinia(createPinia());
  });

  it('stay until two newer ones have come', () => {
    const notice = useNoticeStore();
    for (const text of ['one', 'two', 'three']) notice.problem(text);
    expect(closed()).toEqual([1, 0, 0]);
  });

  it('go when their topic is over, and no others', () => {
    const notice = useNoticeStore();
    notice.problem('It could not be run.', 'run');
    notice.problem('It could not be read.');
    notice.over('run');
    expect(closed()).toEqual([1, 0]);
    notice.over('run');
    notice.problem('three');
    expect(closed()).toEqual([1, 0, 0]);
  });
});
