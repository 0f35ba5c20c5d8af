import { CACHE_FORMATS, HAND_UNITS, MOST_THREADS, type CacheFormat } from '@lumbra/core';
import { Command, Option, InvalidArgumentError } from 'commander';
import { bakeCommand } from './bakeCommand';
import { checkCommand } from './checkCommand';
import { convertCommand } from './convertCommand';
import { infoCommand } from './infoCommand';
import { serveCommand } from './serveCommand';

function frameRange(text: string): { first: number; last: number } {
  const match = /^(-?\d+)-(-?\d+)$/.exec(text);
  const [first, last] = [Number(match?.[1]), Number(match?.[2])];
  if (!match || last < first) throw new InvalidArgumentError('Give frames as FIRST-LAST, for example 1-100.');
  return { first, last };
}

function cacheFormat(text: string): CacheFormat {
  const format = CACHE_FORMATS.find(({ id }) => id === text);
  if (!format) throw new InvalidArgumentError(`Choose one of ${CACHE_FORMATS.map(({ id }) => id).join(', ')}.`);
  return format;
}

function wholeNumber(text: string): number {
  const number = Number(text);
  if (!Number.isInteger(number) || number < 1) throw new InvalidArgumentError('Give a whole number from 1 up.');
  return number;
}

function port(text: string): number {
  const number = Number(text);
  if (!Number.isInteger(number) || number < 0 || number > 65535)
    throw new InvalidArgumentError('Give a port from 0 to 65535.');
  return number;
}

const formats = CACHE_FORMATS.map(({ id, note }) => `${id} (${note})`).join(', ');

const program = new Command('lumbra').description('Cloth for shots, from the command line.').showHelpAfterError();

program
  .command('bake')
  .description('Bake a shot and write its cloth.')
  .argument('<shot>', 'a .lumbra shot file')
  .requiredOption('--out <dir>', 'folder to write to')
  .addOption(
    new Option('--format <format>', `how to write the cloth: ${formats}`)
      .argParser(cacheFormat)
      .default(cacheFormat('obj'), 'obj'),
  )
  .option('--frames <range>', 'frames to write, for example 1-100', frameRange)
  .option('--step <n>', 'write every so many frames', wholeNumber, 1)
  .addOption(new Option('--unit <unit>', 'unit of what is written').choices(HAND_UNITS).default('m'))
  .addOption(new Option('--up <axis>', 'axis that points up').choices(['y', 'z']).default('y'))
  .option('--things', 'write the other things that are shown too: colliders, what wears the cloth, scenery')
  .option('--apart', 'write each cloth, and each other thing, in files of its own')
  .option('--unfinished', 'write cloth as it was simulated, without its finish lists')
  .option(
    '--threads <n>',
    `on how many threads to compute, up to ${MOST_THREADS}; as many as the machine has processors, up to 4, where it is not said. What comes out is the same`,
    wholeNumber,
  )
  .option('--report <file>', 'write the bake report: .html to be read, .csv a table, else JSON')
  .action(bakeCommand);

program
  .command('convert')
  .description('Write a cache in another format.')
  .argument(
    '<cache>',
    'a USD or GLB file with motion, or a zip or a folder of OBJ or PLY files, which are taken to be in metres with y up',
  )
  .requiredOption('--out <dir>', 'folder to write to')
  .addOption(new Option('--to <format>', `what to write: ${formats}`).argParser(cacheFormat).makeOptionMandatory())
  .option('--rate <n>', 'frames a second', wholeNumber, 24)
  .option('--step <n>', 'write every so many frames', wholeNumber, 1)
  .addOption(new Option('--unit <unit>', 'unit of what is written').choices(HAND_UNITS).default('m'))
  .addOption(new Option('--up <axis>', 'axis that points up').choices(['y', 'z']).default('y'))
  .action(convertCommand);

program
  .command('check')
  .description('Look a shot over before it is run.')
  .argument('<shot>', 'a .lumbra shot file')
  .action(checkCommand);

program
  .command('info')
  .description('Say what a mesh file holds, as JSON.')
  .argument('<file>', 'an OBJ, GLB, glTF, STL, PLY, USD or SVG file, or a zip of OBJ or PLY files')
  .action(infoCommand);

program
  .command('serve')
  .description('Serve the app from its build.')
  .option('--port <port>', 'port to listen on', port, 4173)
  .action(serveCommand);

try {
  await program.parseAsync();
} catch (error) {
  // One clear line; the stack helps nobody who works on a shot.
  console.error(`lumbra: ${error instanceof Error ? error.message : String(error)}`);
  process.exitCode = 1;
}
