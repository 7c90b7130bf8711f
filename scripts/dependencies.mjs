// Lists what the product is made with, its version and its licence, from the
// module files and the packages themselves.
import { execFileSync } from "node:child_process";
import { existsSync, readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

const json = (file) => JSON.parse(readFileSync(file, "utf8"));

function goModules() {
  // A module that is not here yet has no licence to read.
  execFileSync("go", ["mod", "download"], { stdio: ["ignore", "ignore", "inherit"] });
  const out = execFileSync("go", ["list", "-m", "-f", "{{if not .Main}}{{if not .Indirect}}{{.Path}}\t{{.Version}}\t{{.Dir}}{{end}}{{end}}", "all"], { encoding: "utf8" });
  return out.split("\n").filter(Boolean).map((line) => line.split("\t"));
}

// The name of a licence by its own words.
function licenceOf(dir) {
  if (!dir || !existsSync(dir)) return "see module";
  const file = readdirSync(dir).find((f) => /^(licen[cs]e|copying)/i.test(f));
  if (!file) return "see module";
  const text = readFileSync(join(dir, file), "utf8");
  if (/Apache License/.test(text)) return "Apache-2.0";
  if (/Permission is hereby granted, free of charge/.test(text)) return "MIT";
  if (/Redistribution and use in source and binary forms/.test(text)) return /Neither the name|endorse or promote/.test(text) ? "BSD-3-Clause" : "BSD-2-Clause";
  return "see module";
}

function npmPackages(folder) {
  const own = json(join(folder, "package.json"));
  const names = [...Object.keys(own.dependencies ?? {}), ...Object.keys(own.devDependencies ?? {})].sort();
  return names.map((name) => {
    const p = json(join(folder, "node_modules", name, "package.json"));
    return [name, p.version, p.license ?? "see package"];
  });
}

const rows = (list) => list.map((r) => `| ${r.join(" | ")} |`).join("\n");
const table = (title, list) => `## ${title}\n\n| package | version | licence |\n|---|---|---|\n${rows(list)}\n`;

console.log("# Dependencies\n\nMade by `make generate`; versions are pinned in the module and lock files.\n");
console.log(table("Go", goModules().map(([path, version, dir]) => [path, version, licenceOf(dir)])));
console.log(table("Pages", npmPackages("web")));
console.log(table("Browser tests", npmPackages("e2e")).trimEnd());
