// Lists the lines of code that do not end before column 140, and fails when there are any.
import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";

const longest = 139;
const code = /\.(cs|cshtml|css|js|mjs|sh)$|^(run|test)$|^\.ci\/run$/;
const generated = /^src\/Auxilium\.Storage\/Migrations\//;

const files = execFileSync("git", ["ls-files", "--cached", "--others", "--exclude-standard"], {
  encoding: "utf8",
}).split("\n");
let found = 0;
for (const file of files.filter((name) => code.test(name) && !generated.test(name))) {
  readFileSync(file, "utf8")
    .split("\n")
    .forEach((line, at) => {
      if ([...line].length <= longest) return;
      found++;
      console.log(`${file}:${at + 1} has ${[...line].length} characters: end it before ${longest + 1}.`);
    });
}
process.exitCode = found === 0 ? 0 : 1;
