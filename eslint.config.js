import { readdirSync } from 'node:fs';
import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

/** Dependencies point one way: app → core, sim → core/math, core → nothing of ours. */
const fromCore = {
  group: [
    '**/app/**',
    '**/sim/**',
    '**/scripts/**',
    '**/server/**',
    'react*',
    '@mui/*',
    '@emotion/*',
    'localforage',
    'comlink',
    'mediabunny',
    'konva',
    'node:*',
  ],
  message:
    'core/ is pure computation: it imports nothing of the interface, the storage, the simulation or Node.',
};
const fromSim = {
  group: ['**/app/**', '**/core/!(math)/**', 'react*', '@mui/*', 'node:*'],
  message: 'sim/ may import core/math only, so that the truth never leans on what it checks.',
};
const fromApp = {
  group: ['**/sim/**', '!**/sim/devices*', '!**/sim/practice*', '**/scripts/**'],
  message:
    'app/ does not import the simulation, but for the stand-ins of devices that ship with it and what Practice rides on.',
};

const ours = (...patterns) => patterns.map((p) => `**/${p}/**`);
/** What a room of app/ may not look up to, room by room; a station knows its frame, and no other station. */
const rooms = [
  [
    'app/storage',
    ours('session', 'jobs', 'ui', 'charts', 'stations', 'studio', 'pdf'),
    'storage/ knows only core and itself.',
  ],
  [
    'app/workers',
    ours('session', 'jobs', 'ui', 'charts', 'stations', 'storage', 'pdf'),
    'workers/ are thin shells round core.',
  ],
  [
    'app/session',
    ours('jobs', 'ui', 'charts', 'stations', 'pdf'),
    'session/ is the open visit: nothing is drawn there, and no job is begun.',
  ],
  ['app/jobs', ours('ui', 'charts', 'stations', 'pdf'), 'jobs/ outlive pages: they know none.'],
  ['app/ui', ours('stations', 'studio/*'), 'ui/ knows no station and no page.'],
  ['app/charts', ours('stations', 'studio/*'), 'charts/ know no station and no page.'],
];
/** The rooms of core/, each of which may look down to those before it. */
const CORE = [
  'math',
  'units',
  'tracking',
  'landmarks',
  'intake',
  'bike',
  'camera',
  'survey',
  'kinematics',
  'body',
  'protocol',
  'live',
  'model',
  'suspects',
  'plan',
  'records',
  'visit',
  'report',
  'formats',
];
const coreRules = CORE.map((room, k) => ({
  files: [`core/${room}/**/*.ts`],
  ignores: ['**/*.test.{ts,tsx}', '**/*.fixture.{ts,tsx}'],
  rules: {
    '@typescript-eslint/no-restricted-imports': [
      'error',
      {
        patterns: [
          fromCore,
          ...(k + 1 < CORE.length
            ? [
                {
                  group: CORE.slice(k + 1).map((above) => `../${above}/*`),
                  message: `${room}/ stands below this room: what both need goes further down.`,
                },
              ]
            : []),
        ],
      },
    ],
  },
}));
const STATIONS = readdirSync('app/stations', { withFileTypes: true })
  .filter((entry) => entry.isDirectory())
  .map((entry) => entry.name);
const roomRules = [
  ...rooms.map(([room, group, message]) => ({
    files: [`${room}/**/*.{ts,tsx}`],
    ignores: ['**/*.test.{ts,tsx}'],
    rules: {
      '@typescript-eslint/no-restricted-imports': ['error', { patterns: [fromApp, { group, message }] }],
    },
  })),
  ...STATIONS.map((station) => ({
    files: [`app/stations/${station}/**/*.{ts,tsx}`],
    rules: {
      '@typescript-eslint/no-restricted-imports': [
        'error',
        {
          patterns: [
            fromApp,
            {
              group: STATIONS.filter((s) => s !== station).flatMap((s) => [`../${s}/*`, `../../${s}/*`]),
              message: 'A station imports no other: what two of them use goes to ui/, charts/ or session/.',
            },
          ],
        },
      ],
    },
  })),
];

export default tseslint.config(
  { ignores: ['build', '.react-router', 'node_modules', 'test-results', 'public'] },
  ...tseslint.configs.recommended,
  {
    files: ['app/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    rules: { ...reactHooks.configs['recommended-latest'].rules, 'react-hooks/exhaustive-deps': 'error' },
  },
  {
    files: ['**/*.{ts,tsx}'],
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/only-throw-error': 'off',
      'no-console': ['error', { allow: ['error'] }],
      eqeqeq: 'error',
    },
  },
  {
    files: ['core/**/*.ts'],
    ignores: ['**/*.test.{ts,tsx}'],
    rules: {
      '@typescript-eslint/no-restricted-imports': ['error', { patterns: [fromCore] }],
      'no-restricted-globals': [
        'error',
        'window',
        'document',
        'navigator',
        'fetch',
        'process',
        'performance',
        'setTimeout',
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'core/ has no randomness: take it as an argument.' },
        { object: 'Date', property: 'now', message: 'core/ has no clock: take the time as an argument.' },
      ],
    },
  },
  {
    files: ['sim/**/*.ts'],
    ignores: ['**/*.test.{ts,tsx}'],
    rules: { '@typescript-eslint/no-restricted-imports': ['error', { patterns: [fromSim] }] },
  },
  {
    files: ['app/**/*.{ts,tsx}'],
    ignores: ['**/*.test.{ts,tsx}'],
    rules: { '@typescript-eslint/no-restricted-imports': ['error', { patterns: [fromApp] }] },
  },
  {
    files: ['app/**/*.{ts,tsx}'],
    ignores: ['app/session/useSend.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: "ImportSpecifier[imported.name='useFetcher']",
          message: 'What is handed to an action goes by session/useSend: it is on its way from then on.',
        },
      ],
    },
  },
  {
    files: ['app/**/*.{ts,tsx}', 'core/**/*.ts', 'sim/**/*.ts', 'scripts/**/*.ts'],
    ignores: ['**/*.test.{ts,tsx}'],
    // More than four want names.
    rules: { 'max-params': ['error', 4] },
  },
  {
    files: ['app/**/*.ts', 'core/**/*.ts', 'sim/**/*.ts', 'server/**/*.mjs'],
    ignores: ['**/*.test.ts'],
    // More than a screen wants a reason, which stands where the rule is put off.
    rules: { 'max-lines-per-function': ['error', { max: 60, skipBlankLines: true, skipComments: true }] },
  },
  {
    files: ['app/**/*.tsx'],
    ignores: ['**/*.test.tsx'],
    // Markup is long and flat: a page has two screens and a half.
    rules: { 'max-lines-per-function': ['error', { max: 150, skipBlankLines: true, skipComments: true }] },
  },
  ...coreRules,
  ...roomRules,
  { files: ['scripts/**', 'server/**', 'e2e/**'], rules: { 'no-console': 'off' } },
);
