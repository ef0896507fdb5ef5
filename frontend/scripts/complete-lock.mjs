// Adds stub entries to package-lock.json for optional packages of other platforms that a registry did not list.
// `npm ci` refuses a lock in which an optional dependency is named but not locked. Run after every `npm install`.
import { readFileSync, writeFileSync } from "node:fs";

const lock = JSON.parse(readFileSync("package-lock.json", "utf8"));
const packages = lock.packages;

/** The path at which node would find `name` when asked from `from`, or undefined. */
function locate(from, name) {
  let base = from;
  for (;;) {
    const path = `${base ? `${base}/` : ""}node_modules/${name}`;
    if (packages[path]) return path;
    if (!base) return undefined;
    const cut = base.lastIndexOf("/node_modules/");
    base = cut < 0 ? "" : base.slice(0, cut);
  }
}

let added = 0;
for (const [path, entry] of Object.entries({ ...packages })) {
  for (const [name, range] of Object.entries(entry.optionalDependencies ?? {})) {
    if (locate(path, name)) continue;
    const version = range.replace(/^[^0-9]*/, "");
    packages[`node_modules/${name}`] = { version, optional: true, dev: true, os: ["none"], cpu: ["none"] };
    added += 1;
  }
}
lock.packages = Object.fromEntries(Object.entries(packages).sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0)));
writeFileSync("package-lock.json", `${JSON.stringify(lock, null, 2)}\n`);
console.log(`package-lock.json: ${added} stub entries added`);
