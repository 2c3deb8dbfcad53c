import { readdirSync, readFileSync, rmSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { build, type Plugin } from 'vite';

const root = fileURLToPath(new URL('..', import.meta.url));
const IS_TEST = /\.test\.ts$/;
const folder = `${root}node_modules/.cache/joined`;

/** A module that asks where it stands is told where its source does. */
const inItsPlace: Plugin = {
  name: 'in-its-place',
  transform: (code, id) =>
    code.includes('import.meta.url')
      ? code.replaceAll('import.meta.url', JSON.stringify(pathToFileURL(id).href))
      : null,
};

/** Builds all tests of some folders; what they test becomes one module beside them. @returns test → its code, and where its lines stand */
async function join(folders: readonly string[]): Promise<Map<string, { code: string; map: string }>> {
  rmSync(folder, { recursive: true, force: true });
  const tests = folders.flatMap((of) =>
    readdirSync(root + of, { recursive: true, encoding: 'utf8' })
      .filter((file) => IS_TEST.test(file))
      .map((file) => `${root}${of}/${file}`),
  );
  await build({
    root,
    configFile: false,
    logLevel: 'error',
    publicDir: false,
    plugins: [inItsPlace],
    build: {
      ssr: true,
      outDir: folder,
      target: 'node20',
      minify: false,
      sourcemap: true,
      rolldownOptions: {
        input: Object.fromEntries(tests.map((file, k) => [`${k}`, file])),
        external: ['vitest'],
        output: {
          entryFileNames: '[name].mjs',
          chunkFileNames: 'tested.mjs',
          sourcemapPathTransform: (source, map) => resolve(dirname(map), source),
          codeSplitting: { groups: [{ name: 'tested', test: (id: string) => !IS_TEST.test(id) }] },
        },
      },
    },
  });
  return new Map(
    tests.map((file, k) => [
      file,
      {
        code: readFileSync(`${folder}/${k}.mjs`, 'utf8').replaceAll(
          '"./tested.mjs"',
          JSON.stringify(`${folder}/tested.mjs`),
        ),
        map: readFileSync(`${folder}/${k}.mjs.map`, 'utf8'),
      },
    ]),
  );
}

/**
 * Joins what tests test into one module, as the application's workers are: from module to module every name is looked up anew at each use,
 * and what one test has had compiled serves the next. For runs of all tests; one alone is read as it stands.
 */
export function joinedTests(folders: readonly string[]): Plugin {
  let joining: ReturnType<typeof join> | null = null;
  return {
    name: 'joined-tests',
    enforce: 'pre',
    load: async (id) => (IS_TEST.test(id) ? ((await (joining ??= join(folders))).get(id) ?? null) : null),
  };
}
