import { svelte } from "@sveltejs/vite-plugin-svelte";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig } from "vite";
import { VitePWA } from "vite-plugin-pwa";

export default defineConfig({
  plugins: [
    tailwindcss(),
    svelte(),
    VitePWA({
      strategies: "injectManifest",
      srcDir: "src",
      filename: "sw.ts",
      injectRegister: false,
      injectManifest: {
        globPatterns: ["**/*.{js,css,html,svg,png,woff2}"],
        // The page comes from its own address, where the server puts its security headers on it.
        manifestTransforms: [
          (entries) => ({
            manifest: entries.map((one) => (one.url === "index.html" ? { ...one, url: "/" } : one)),
          }),
        ],
      },
      manifest: {
        id: "/",
        name: "Jungoptic",
        short_name: "Jungoptic",
        description: "Plan, log and judge practical effects plates so that they marry.",
        start_url: "/",
        display: "standalone",
        background_color: "#131313",
        theme_color: "#131313",
        icons: [
          { src: "/icon-192.png", sizes: "192x192", type: "image/png" },
          { src: "/icon-512.png", sizes: "512x512", type: "image/png" },
          { src: "/icon-512.png", sizes: "512x512", type: "image/png", purpose: "maskable" },
        ],
        shortcuts: [
          { name: "Log", url: "/#/log" },
          { name: "Today", url: "/#/today" },
          { name: "Pocket", url: "/#/pocket" },
        ],
      },
    }),
  ],
  build: { target: "es2022", assetsInlineLimit: 0 },
  server: { host: "127.0.0.1", proxy: { "/api": `http://127.0.0.1:${process.env.PORT ?? 8000}` } },
});
