import { gzipSync } from "node:zlib";
import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";

/** Writes a compressed copy beside every text file, so that the server need not compress. */
function packed(): Plugin {
  return {
    name: "packed",
    apply: "build",
    generateBundle(_, bundle) {
      for (const [name, file] of Object.entries(bundle)) {
        if (!/\.(js|css|svg|html)$/.test(name)) continue;
        const source = file.type === "chunk" ? file.code : file.source;
        this.emitFile({ type: "asset", fileName: `${name}.gz`, source: gzipSync(source, { level: 9 }) });
      }
    },
  };
}

export default defineConfig({
  plugins: [react(), packed()],
  build: { outDir: "dist/app", emptyOutDir: true, chunkSizeWarningLimit: 1000 },
  server: { proxy: { "/api": process.env.DYNACOR_API ?? "http://127.0.0.1:8080" } },
  test: { include: ["src/**/*.test.ts"] },
} as Parameters<typeof defineConfig>[0]);
