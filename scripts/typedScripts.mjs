// Types for the scripts of components, in one program. Left to itself, the linter makes the program anew for each of them, as a component's
// script is not what its file holds: that took longer than linting everything else.
import path from 'node:path';
import ts from 'typescript';
import tseslint from 'typescript-eslint';
import * as vueParser from 'vue-eslint-parser';

/** The script of a component just as its parser hands it over: beside it there are only the expressions of the template. */
function scriptOf(text) {
  const parts = [''];
  vueParser.parseForESLint(text, {
    parser: {
      parseForESLint(code, options) {
        parts.push(code);
        return tseslint.parser.parseForESLint(code, options);
      },
    },
    sourceType: 'module',
  });
  return parts.reduce((script, part) => (part.length > script.length ? part : script));
}

/** A program of all files that a tsconfig includes and of the scripts of the components beside them. */
function programWithComponents(configFile) {
  const { config } = ts.readConfigFile(configFile, ts.sys.readFile);
  const components = [{ extension: '.vue', isMixedContent: true, scriptKind: ts.ScriptKind.Deferred }];
  const { fileNames, options } = ts.parseJsonConfigFileContent(
    config,
    ts.sys,
    path.dirname(configFile),
    { allowNonTsExtensions: true },
    configFile,
    undefined,
    components,
  );
  const host = ts.createCompilerHost(options, true);
  const plain = host.getSourceFile;
  host.getSourceFile = (file, target, ...rest) =>
    file.endsWith('.vue')
      ? ts.createSourceFile(file, scriptOf(ts.sys.readFile(file)), target, true, ts.ScriptKind.TS)
      : plain(file, target, ...rest);
  return ts.createProgram(fileNames, options, host);
}

/** A parser of components' scripts that knows their types; an expression of a template is parsed without. */
export function typedScripts(configFile) {
  let program;
  return {
    parseForESLint(code, options) {
      program ??= programWithComponents(configFile);
      const whole = program.getSourceFile(options.filePath)?.text === code;
      return tseslint.parser.parseForESLint(code, { ...options, programs: whole ? [program] : undefined });
    },
  };
}
