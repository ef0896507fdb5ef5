import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  build: { target: "es2022", sourcemap: false, chunkSizeWarningLimit: 900, modulePreload: { polyfill: false } },
  test: {
    include: ["src/**/*.test.{ts,tsx}"],
    setupFiles: ["src/testing/setup.ts"],
    testTimeout: 20_000,
    maxWorkers: "100%",
    // the components and the library are loaded once a worker, not once a file: a quarter of the time
    isolate: false,
  },
});
