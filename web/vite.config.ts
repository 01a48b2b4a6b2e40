import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: { outDir: "dist", target: "es2022", chunkSizeWarningLimit: 600 },
  // One page for all files, cleared after each test: making a new one for each takes longer than the tests.
  test: { environment: "jsdom", setupFiles: ["src/testing/setup.ts"], isolate: false, testTimeout: 20_000 },
  server: { proxy: { "/api": "http://127.0.0.1:8000" } },
});
