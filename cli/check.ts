import { factsOfSample, type SampleFacts } from "../core/analysis";
import { readPackage, readSound } from "../core/formats";
import { listZones } from "../core/instrument";
import { checkMap } from "../core/mapping";
import { plural } from "../core/params";
import { readArguments, UsageError } from "./arguments";
import { bytesOfFile, reading } from "./files";

/** `vise check X.vise`: what is doubtful about how an instrument is mapped. */
export async function check(args: readonly string[]): Promise<{ json: unknown; text: string }> {
  const { files } = readArguments(args, []);
  const [path, ...rest] = files;
  if (!path || rest.length > 0) throw new UsageError("check takes one package: vise check X.vise [--json]");
  const bytes = await bytesOfFile(path);
  const { instrument, samples, problems } = reading(path, () => readPackage(bytes));
  const facts = new Map<string, SampleFacts>();
  for (const [sha, wav] of samples) facts.set(sha, factsOfSample(readSound(wav, { salvage: true }).audio));
  const names = new Map(instrument.samples.map((s) => [s.sha, s.name]));
  const zones = new Map(listZones(instrument).map((z) => [z.id, z]));
  const findings = checkMap(instrument, facts).map((f) => ({
    kind: f.kind,
    text: f.text,
    keys: f.keys,
    samples: f.zones.map((id) => names.get(zones.get(id)?.sample ?? "") ?? ""),
    repair: f.way === "" ? null : f.way,
  }));
  return {
    json: { zones: zones.size, findings, problems },
    text: [
      ...problems.map((p) => `problem: ${p}`),
      ...findings.map((f) => `${f.kind}: ${f.text}${f.repair ? `  (${f.repair})` : ""}`),
      findings.length === 0
        ? `${plural(zones.size, "zone")}, no warnings`
        : `${plural(zones.size, "zone")}, ${plural(findings.length, "warning")}`,
    ].join("\n"),
  };
}
