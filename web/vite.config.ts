import { svelte } from "@sveltejs/vite-plugin-svelte";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [tailwindcss(), svelte()],
  build: { target: "es2022", assetsInlineLimit: 0 },
  server: { host: "127.0.0.1", proxy: { "/api": `http://127.0.0.1:${process.env.PORT ?? 8000}` } },
});
