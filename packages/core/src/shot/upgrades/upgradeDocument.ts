import { SHOT_VERSION } from '../schema';
import { UPGRADES, type RawDocument, type Upgrade } from './index';

export interface UpgradeOptions {
  upgrades: Readonly<Record<number, Upgrade>>;
  /** The version that is wanted. */
  to: number;
}

export const UPGRADE_DEFAULTS: UpgradeOptions = { upgrades: UPGRADES, to: SHOT_VERSION };

/** Brings a document of an older version to the newest, one version at a time; newer or unknown versions come back as they are. */
export function upgradeDocument(document: RawDocument, { upgrades, to } = UPGRADE_DEFAULTS): RawDocument {
  let current = document;
  for (;;) {
    const { version } = current;
    const upgrade = typeof version === 'number' && version < to ? upgrades[version] : undefined;
    if (!upgrade) return current;
    current = { ...upgrade(current), version: (version as number) + 1 };
  }
}
