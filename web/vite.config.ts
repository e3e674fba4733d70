import vue from '@vitejs/plugin-vue'
import Components from 'unplugin-vue-components/vite'
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers'
import { defineConfig } from 'vite'

export default defineConfig({
  plugins: [
    vue(),
    // Element Plus by component, with its plain CSS; the theme is in src/shared/theme.
    Components({ dts: 'src/components.d.ts', dirs: [], resolvers: [ElementPlusResolver({ importStyle: 'css' })] }),
  ],
  build: { chunkSizeWarningLimit: 700 },
  server: { proxy: { '/api': 'http://127.0.0.1:7373' } },
})
