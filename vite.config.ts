import { reactRouter } from '@react-router/dev/vite';
import { defineConfig } from 'vite';

/** Used by most pages: what every visit loads anyway comes in two files, not in forty small ones. */
const SHARED_BY = 12;
/** The small parts that the first page needs beside those: in one file too, since each request takes longer than such a file. */
const FIRST_PAGE =
  /[\\/](app[\\/](nonce|session[\\/](answering|erase)|storage[\\/](films|studio|lastBackup)|ui[\\/](theme[\\/]|NoticeBar|words[\\/](bytesText|dueText|many)|fields[\\/]Choice))|@mui[\\/]material[\\/](Snackbar|SnackbarContent|ClickAwayListener|useMediaQuery|CssBaseline)|node_modules[\\/]scheduler)/;

export default defineConfig(({ isSsrBuild }) => ({
  plugins: [reactRouter()],
  worker: { format: 'es' },
  build: {
    target: 'es2022',
    chunkSizeWarningLimit: 1500,
    rolldownOptions: isSsrBuild
      ? {}
      : {
          output: {
            codeSplitting: {
              groups: [
                { name: 'packages', test: /[\\/]node_modules[\\/]/, minShareCount: SHARED_BY, priority: 1 },
                {
                  name: 'house',
                  test: /^(?!.*[\\/]node_modules[\\/]).*[\\/](app|core)[\\/]/,
                  minShareCount: SHARED_BY,
                },
                { name: 'first', test: FIRST_PAGE },
              ],
            },
          },
        },
  },
  optimizeDeps: { include: ['comlink', 'mediabunny', 'localforage', 'joi', 'd3', 'konva', 'papaparse'] },
}));
