/** What ESLint can't see from inside one file: a way of imports, types among them, that leads back to where it began. */
export default {
  forbidden: [
    { name: 'no-circle', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'no-circle-of-rooms',
      severity: 'error',
      scope: 'folder',
      from: { path: '^core/' },
      to: { circular: true },
    },
  ],
  options: {
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '\\.(test|fixture)\\.tsx?$|^\\.react-router' },
  },
};
