// Builds what the browser gets into wwwroot: bundled scripts, one style sheet, the fonts.
import { execFileSync } from "node:child_process";
import { cpSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { createRequire } from "node:module";
import { dirname, join, relative, resolve } from "node:path";
import { fileURLToPath } from "node:url";
import * as esbuild from "esbuild";

const here = dirname(fileURLToPath(import.meta.url));
const out = join(here, "..", "wwwroot");
const require = createRequire(import.meta.url);
const packageOf = (/** @type {string} */ name) => dirname(require.resolve(`${name}/package.json`));

/**
 * What is imported when it is wanted shares modules with the script that wants it, each its own few: split by who shares what, that
 * script would come in many small files. As what is wanted later imports all that the script imports, they come in one.
 * @param {string} entry
 * @returns {import("esbuild").Plugin}
 */
const shareAll = (entry) => ({
  name: "share-all",
  setup({ onResolve, onLoad }) {
    const later = new Set();
    const shared = [...readFileSync(entry, "utf8").matchAll(/^import .* from "(\..+)";$/gm)]
      .map(([, path]) => `import ${JSON.stringify(resolve(dirname(entry), path ?? ""))};\n`)
      .join("");
    onResolve({ filter: /^\./ }, ({ kind, path, resolveDir }) => {
      if (kind === "dynamic-import") later.add(resolve(resolveDir, path));
      return undefined;
    });
    onLoad({ filter: /\.js$/ }, ({ path }) =>
      later.has(path) ? { contents: shared + readFileSync(path, "utf8") } : undefined,
    );
  },
});

/**
 * Bundles scripts that share what they import. What one of them imports only when it is wanted stays a file of its own.
 * @param {string[]} entries their paths here, which are their paths under js/ too
 * @returns {Promise<string[][]>} for each of them its own file under js/ and those it cannot start without
 */
async function bundle(entries) {
  const js = join(out, "js");
  const { metafile } = await esbuild.build({
    entryPoints: entries.map((entry) => join(here, entry)),
    outbase: here,
    outdir: js,
    bundle: true,
    splitting: true,
    format: "esm",
    target: "es2022",
    chunkNames: "parts/[name]-[hash]",
    minify: true,
    sourcemap: true,
    legalComments: "linked",
    metafile: true,
    plugins: entries.length === 1 ? [shareAll(join(here, entries[0] ?? ""))] : [],
    absWorkingDir: here,
  });
  const named = (/** @type {string} */ path) => relative(js, join(here, path));
  const needs = (/** @type {string} */ path) => {
    const needed = new Set([path]);
    for (const file of needed)
      for (const { path: part, kind } of metafile.outputs[file]?.imports ?? [])
        if (kind === "import-statement") needed.add(part);
    return [...needed].map(named);
  };
  return Object.entries(metafile.outputs)
    .filter(([, { entryPoint }]) => entryPoint !== undefined && entries.includes(entryPoint))
    .map(([path]) => needs(path));
}

rmSync(out, { recursive: true, force: true });
mkdirSync(join(out, "fonts"), { recursive: true });
const plan = await bundle(["plan/main.js"]);
await bundle([
  "account/sign-out.js",
  "now/now.js",
  "projects/projects.js",
  "shared/day-turns.js",
  "sheets/check-up.js",
  "sheets/compare.js",
  "sheets/forecast.js",
  "sheets/journal.js",
  "sheets/load.js",
  "sheets/money.js",
  "sheets/organisation-fields.js",
  "sheets/settings.js",
  "shared/timer.js",
  "week/hours.js",
  "week/week.js",
]);
// What the Plan screen cannot start without is fetched at once, and not one file after another as they are named.
writeFileSync(join(out, "js", "plan.json"), JSON.stringify(plan[0]));
cpSync(join(here, "mark.svg"), join(out, "mark.svg"));
for (const [name, file] of [
  ["figtree", "figtree-latin-wght-normal.woff2"],
  ["figtree", "figtree-latin-ext-wght-normal.woff2"],
  ["bricolage-grotesque", "bricolage-grotesque-latin-wght-normal.woff2"],
  ["bricolage-grotesque", "bricolage-grotesque-latin-ext-wght-normal.woff2"],
]) {
  cpSync(join(packageOf(`@fontsource-variable/${name}`), "files", file), join(out, "fonts", file));
}
for (const name of ["figtree", "bricolage-grotesque"]) {
  cpSync(join(packageOf(`@fontsource-variable/${name}`), "LICENSE"), join(out, "fonts", `${name}-licence.txt`));
}
// Styles that only one page needs.
await esbuild.build({
  entryPoints: ["load", "money", "now", "week"].map((name) => join(here, "styles", `${name}.css`)),
  outdir: out,
  minify: true,
});
const tailwind = join(packageOf("@tailwindcss/cli"), "dist", "index.mjs");
execFileSync(
  process.execPath,
  [tailwind, "--input", join(here, "app.css"), "--output", join(out, "app.css"), "--minify"],
  {
    stdio: ["ignore", "ignore", "inherit"],
  },
);
