import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import type { Plugin } from "vite";
import { defineConfig } from "vitest/config";
import { serviceWorkerSource } from "./service-worker";

/** The service worker with the names of all it keeps: scripts and styles of this build, whichever stage they belong to. */
function serviceWorker(): Plugin {
  return {
    name: "service-worker",
    apply: "build",
    generateBundle(_options, bundle) {
      const files = Object.keys(bundle).filter((name) => /\.(js|css)$/.test(name));
      const shell = ["/", ...files.sort().map((name) => `/${name}`)];
      // Names carry what is in the files: other files, another cache.
      const name = `gecko-shell-${files.map((file) => file.replace(/^.*-|\.\w+$/g, "")).join("")}`;
      this.emitFile({ type: "asset", fileName: "sw.js", source: serviceWorkerSource(shell, name) });
    },
  };
}

/** The style sheet below the first words of the page: above them it would hold up their painting. */
function wordsFirst(): Plugin {
  return {
    name: "words-first",
    apply: "build",
    transformIndexHtml: {
      order: "post",
      handler(html) {
        const sheets = html.match(/\n *<link rel="stylesheet"[^>]*>/g) ?? [];
        return sheets
          .reduce((page, sheet) => page.replace(sheet, ""), html)
          .replace("</body>", `${sheets.join("").trim()}\n  </body>`);
      },
    },
  };
}

export default defineConfig({
  plugins: [react(), tailwindcss(), serviceWorker(), wordsFirst()],
  build: { outDir: "dist", target: "es2022", chunkSizeWarningLimit: 600 },
  // One page for all files, cleared after each test: making a new one for each takes longer than the tests.
  test: { environment: "jsdom", setupFiles: ["src/testing/setup.ts"], isolate: false, testTimeout: 60_000 },
  server: { proxy: { "/api": "http://127.0.0.1:8000" } },
});
