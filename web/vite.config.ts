import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

const api = `http://127.0.0.1:${process.env.RAMMER_API_PORT ?? 4601}`;

export default defineConfig({
  plugins: [react(), tailwindcss()],
  worker: { format: 'es' },
  build: { target: 'es2022', chunkSizeWarningLimit: 3000 },
  server: { host: '127.0.0.1', port: Number(process.env.RAMMER_PORT ?? 4600), strictPort: true, proxy: { '/api': api, '/docs': api } },
});
