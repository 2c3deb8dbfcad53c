import { reactRouter } from '@react-router/dev/vite';
import { defineConfig } from 'vite';

/** Used by most pages: what every visit loads anyway comes in two files, not in forty small ones. */
const SHARED_BY = 12;

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
              ],
            },
          },
        },
  },
  optimizeDeps: { include: ['comlink', 'mediabunny', 'localforage', 'joi', 'd3', 'konva', 'papaparse'] },
}));
