import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";
import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";
import { VitePWA } from "vite-plugin-pwa";

/** Writes a compressed copy beside every text file, so that the server need not compress. */
function packed(): Plugin {
  return {
    name: "packed",
    apply: "build",
    // What was written, not the bundle: what loads a script when it is needed is put in last.
    writeBundle({ dir = "." }, bundle) {
      for (const name of Object.keys(bundle)) {
        // The judge of a device is several megabytes: packed as tightly as it can be.
        if (name.endsWith(".wasm")) {
          const params = { [constants.BROTLI_PARAM_QUALITY]: 11, [constants.BROTLI_PARAM_LGWIN]: 24 };
          writeFileSync(join(dir, `${name}.br`), brotliCompressSync(readFileSync(join(dir, name)), { params }));
        }
        if (!/\.(js|css|svg|html)$/.test(name)) continue;
        writeFileSync(join(dir, `${name}.gz`), gzipSync(readFileSync(join(dir, name)), { level: 9 }));
      }
    },
  };
}

export default defineConfig({
  plugins: [
    react(),
    packed(),
    VitePWA({
      strategies: "injectManifest",
      srcDir: "src/worker",
      filename: "worker.ts",
      injectRegister: null,
      manifest: false,
      injectManifest: { globPatterns: ["index.html", "icon.svg", "assets/*.{js,css,woff2}"] },
    }),
  ],
  build: { outDir: "dist/app", emptyOutDir: true, chunkSizeWarningLimit: 1000 },
  server: { proxy: { "/api": process.env.DYNACOR_API ?? "http://127.0.0.1:8080" } },
  test: { include: ["src/**/*.test.ts"] },
} as Parameters<typeof defineConfig>[0]);
