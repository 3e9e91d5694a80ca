import tailwind from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  root: "web",
  plugins: [react(), tailwind()],
  build: { outDir: "dist", emptyOutDir: true, chunkSizeWarningLimit: 900 },
});
