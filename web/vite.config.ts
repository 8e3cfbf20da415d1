import optimizeLocales from '@react-aria/optimize-locales-plugin'
import react from '@vitejs/plugin-react'
import { defineConfig, type Plugin } from 'vite'
import { compression } from 'vite-plugin-compression2'

/** Has the fonts of the page fetched with it: text does not jump when they come. */
function fontsAhead(): Plugin {
  return {
    name: 'fonts-ahead',
    transformIndexHtml: {
      order: 'post',
      handler: (_html, { bundle }) =>
        Object.keys(bundle ?? {})
          .filter((file) => /-latin-\d+-normal-[^/]*\.woff2$/.test(file))
          .map((file) => ({
            tag: 'link',
            attrs: { rel: 'preload', as: 'font', type: 'font/woff2', crossorigin: '', href: `/${file}` },
            injectTo: 'head',
          })),
    },
  }
}

export default defineConfig({
  plugins: [
    { ...optimizeLocales.vite({ locales: ['en-GB', 'en-US'] }), enforce: 'pre' },
    react({ compiler: true }),
    fontsAhead(),
    compression({ algorithms: ['gzip', 'brotliCompress'], include: /\.(js|css|html|svg)$/, threshold: 500 }),
  ],
  build: {
    outDir: 'dist',
    emptyOutDir: true,
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 700,
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8420' } },
})
