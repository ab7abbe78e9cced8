// Builds what the browser gets into wwwroot: scripts without their comments, one style sheet, the fonts.
import { execFileSync } from "node:child_process";
import { cpSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { createRequire } from "node:module";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import ts from "typescript";

const here = dirname(fileURLToPath(import.meta.url));
const out = join(here, "..", "wwwroot");
const require = createRequire(import.meta.url);
const packageOf = (/** @type {string} */ name) => dirname(require.resolve(`${name}/package.json`));

/** Scripts go as they are, without what is written for people who read them. @param {string} from @param {string} to */
function copyScripts(from, to) {
  mkdirSync(to, { recursive: true });
  for (const entry of readdirSync(from, { withFileTypes: true })) {
    const [source, target] = [join(from, entry.name), join(to, entry.name)];
    if (entry.isDirectory()) copyScripts(source, target);
    else
      writeFileSync(
        target,
        ts.transpileModule(readFileSync(source, "utf8"), {
          compilerOptions: { removeComments: true, target: ts.ScriptTarget.ESNext, module: ts.ModuleKind.ESNext },
        }).outputText,
      );
  }
}

rmSync(out, { recursive: true, force: true });
mkdirSync(join(out, "fonts"), { recursive: true });
for (const scripts of ["plan", "sheets", "week", "account", "shared"])
  copyScripts(join(here, scripts), join(out, "js", scripts));
cpSync(join(packageOf("@microsoft/signalr"), "dist", "browser", "signalr.min.js"), join(out, "js", "signalr.js"));
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
const tailwind = join(packageOf("@tailwindcss/cli"), "dist", "index.mjs");
execFileSync(
  process.execPath,
  [tailwind, "--input", join(here, "app.css"), "--output", join(out, "app.css"), "--minify"],
  {
    stdio: ["ignore", "ignore", "inherit"],
  },
);
