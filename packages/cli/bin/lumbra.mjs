#!/usr/bin/env node
// From the TypeScript sources as they are, so that a fresh clone needs no step before its command line.
import { pathToFileURL } from 'node:url';
import { bundled } from '../scripts/bundle.mjs';

process.setSourceMapsEnabled(true);
await import(pathToFileURL(await bundled()).href);
