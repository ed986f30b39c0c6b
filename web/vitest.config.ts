import { fileURLToPath } from "node:url";
import { svelte } from "@sveltejs/vite-plugin-svelte";
import { defineConfig } from "vitest/config";

// The tests stand with all others, in tests/web; what they import is found from here.
export default defineConfig({
  plugins: [svelte()],
  resolve: {
    conditions: ["browser"],
    alias: { "fake-indexeddb": fileURLToPath(new URL("node_modules/fake-indexeddb", import.meta.url)) },
  },
  server: { fs: { allow: [".."] } },
  test: {
    dir: "../tests/web",
    environment: "jsdom",
    globals: true,
    setupFiles: ["../tests/web/server.ts"],
    restoreMocks: true,
    unstubGlobals: true,
  },
});
