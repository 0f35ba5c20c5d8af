#!/usr/bin/env node
// Runs the TypeScript sources directly, so that a fresh clone needs no build step for the command line.
import { register } from 'tsx/esm/api';

register();
await import('../src/main.ts');
