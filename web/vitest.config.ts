import { defineConfig } from "vitest/config";

// Pure TypeScript only: what a browser draws is tested in one.
export default defineConfig({
  test: {
    include: ["tests/**/*.test.ts"],
    environment: "node",
    watch: false,
  },
});
