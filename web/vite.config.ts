import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { VitePWA } from "vite-plugin-pwa";

export default defineConfig({
  plugins: [
    react(),
    tailwindcss(),
    VitePWA({
      // The page asks before it takes a newer program: nobody loses what is being typed.
      registerType: "prompt",
      injectRegister: false,
      manifest: {
        name: "Evtro",
        short_name: "Evtro",
        description: "Television reception, from the sky to the outlet",
        start_url: "/",
        display: "standalone",
        background_color: "#F4F1EA",
        theme_color: "#F4F1EA",
        icons: [
          { src: "/mark.svg", sizes: "any", type: "image/svg+xml", purpose: "any" },
          { src: "/icon-180.png", sizes: "180x180", type: "image/png" },
          { src: "/icon-512.png", sizes: "512x512", type: "image/png" },
        ],
      },
      workbox: {
        globPatterns: ["**/*.{js,css,html,svg,woff2}"],
        maximumFileSizeToCacheInBytes: 4_000_000,
        navigateFallback: "/index.html",
        navigateFallbackDenylist: [/^\/api\//],
        cleanupOutdatedCaches: true,
      },
    }),
  ],
  build: {
    outDir: "../src/evtro/web",
    emptyOutDir: true,
    assetsInlineLimit: 0,
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            // Small pieces that several pages share come as one file, not as twenty.
            { name: "shared", test: /web\/src\/(?!parts\/(Tabs|CommandBox|Problems))(parts|instruments|units|service|stations)/, minShareCount: 3 },
          ],
        },
      },
    },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8750" } },
});
