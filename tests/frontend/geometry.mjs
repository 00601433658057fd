// Bundles the front end's frame geometry with Vite and answers cases from standard input: [function, ...arguments].
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { pathToFileURL } from "node:url";

const cases = JSON.parse(readFileSync(0, "utf8"));
const [root, out] = process.argv.slice(2);
const { build } = await import(pathToFileURL(createRequire(`${root}/package.json`).resolve("vite")).href);
await build({
  root,
  configFile: false,
  logLevel: "silent",
  build: { outDir: out, lib: { entry: "src/views/bench/frameGeometry.ts", formats: ["es"], fileName: "geometry" } },
});
const geometry = await import(pathToFileURL(`${out}/geometry.js`).href);
console.log(JSON.stringify(cases.map(([name, ...given]) => geometry[name](...given))));
