import { type Instrument, listZones, type Sample } from "../../core/instrument";
import {
  evidenceOf,
  isKitBy,
  type PlaceInto,
  type Placement,
  placementEdit,
  placeSounds,
  type Role,
  type SpreadOptions,
  saysGone,
  whatGoes,
} from "../../core/mapping";
import { plural } from "../../core/params";
import { nextTask } from "../basis/next-task";
import { reasonOf } from "../basis/reason-of";
import { audioWorker } from "../workers/audio-worker";
import { hearAs, showEngine } from "./engine";
import { freshId } from "./ids";
import { settleAxis } from "./key-axis";
import { tell } from "./notices";
import { type Proposal, proposals } from "./proposal";
import { session } from "./session";
import { setView } from "./view";

/** The keys that are filled unless somebody says otherwise: four octaves, and wherever else there are roots. */
const USUAL = { low: 36, high: 84 };

/** Proposes how samples are placed: seen on the field and heard on the keys before anything happens. */
class Proposing {
  readonly store = proposals;
  private turn = 0;

  /** Proposes to place samples, as their names, files and sounds say. */
  async propose(samples: readonly Sample[]): Promise<void> {
    const { instrument } = session;
    if (!instrument || samples.length === 0) return;
    const turn = ++this.turn;
    try {
      const sounds = samples.map(evidenceOf);
      const readings = await audioWorker().readNames(sounds);
      const shown = readings.length > 0 ? 0 : -1;
      const evidence = await audioWorker().evidence(readings[shown] ?? null, sounds);
      if (turn !== this.turn || session.instrument?.id !== instrument.id) return;
      const notes = evidence.weighed.flatMap((w) => w.note ?? []);
      const spread: SpreadOptions = {
        mode: "nearest",
        low: notes.reduce((least, n) => Math.min(least, n), USUAL.low),
        high: notes.reduce((most, n) => Math.max(most, n), USUAL.high),
      };
      // What is all mapped already is sorted anew where nobody has worked on it; others don't touch what is there.
      const own = new Set(samples.map((s) => s.sha));
      const fresh = whatGoes(instrument).made === "" && listZones(instrument).every((z) => own.has(z.sample ?? ""));
      const into: PlaceInto = fresh ? "replace" : "layer";
      // Of hundreds of samples each step takes its time: the page draws and answers in between.
      await nextTask();
      const now = session.instrument;
      if (turn !== this.turn || now?.id !== instrument.id) return;
      const proposal = this.worked(now, {
        of: instrument.id,
        samples,
        sounds,
        readings,
        shown,
        evidence,
        heard: new Set(),
        octaves: 0,
        into,
        kit: isKitBy(sounds, evidence.weighed, readings[shown] ?? null),
        spread,
      });
      await nextTask();
      if (turn !== this.turn) return;
      if (session.instrument === now) this.put(proposal);
      else this.show(proposal);
      // Another instrument may have been opened just now: nothing of it is to be looked at otherwise.
      const keys = this.store.getState().proposal?.placement.zones.flatMap((z) => [z.keyLow, z.keyHigh]) ?? [];
      const low = Math.min(...keys);
      if (keys.length > 0) setView({ zoneIds: new Set(), ...settleAxis(low - 2, Math.max(...keys) - low + 5) });
    } catch (error) {
      tell("error", `The names could not be read: ${reasonOf(error)}.`);
    }
  }

  private show(next: Omit<Proposal, "placement" | "preview">): void {
    const { instrument } = session;
    if (!instrument || instrument.id !== next.of) {
      this.drop();
      return;
    }
    this.put(this.worked(instrument, next));
  }

  private worked(instrument: Instrument, next: Omit<Proposal, "placement" | "preview">): Proposal {
    const placement = this.placed(next, instrument);
    const preview = placementEdit(instrument, placement, next.into, nameOf(next.samples), freshId).apply(instrument);
    return { ...next, placement, preview };
  }

  private put(proposal: Proposal): void {
    this.store.setState({ proposal });
    showEngine();
  }

  private placed(
    { samples, evidence, heard, spread, octaves, kit }: Omit<Proposal, "placement" | "preview">,
    instrument: Instrument,
  ): Placement {
    const taken = new Set(listZones(instrument).map((z) => z.id));
    const sounds = samples.map((sample, i) => {
      const says = evidence.weighed[i];
      if (!says) throw new RangeError("there is evidence for every sample");
      const believed = heard.has(sample.sha) && says.heard !== null;
      const told = believed ? Math.round(says.heard ?? 0) : (says.note ?? says.heard);
      const note = told === null ? null : Math.max(0, Math.min(127, Math.round(told) + 12 * octaves));
      const repeat = says.repeat ?? sample.repeat;
      return {
        sample,
        says: { ...says, note, strength: says.strength ?? sample.strength, repeat, doubt: believed ? "" : says.doubt },
      };
    });
    return placeSounds(sounds, { ...spread, kit }, () => {
      const id = freshId(taken);
      taken.add(id);
      return id;
    });
  }

  private change(change: Partial<Proposal>): void {
    const { proposal } = this.store.getState();
    if (proposal) this.show({ ...proposal, ...change });
  }

  /** Works it out anew, after the instrument has become another. */
  refresh(): void {
    const { proposal } = this.store.getState();
    if (!proposal) return;
    // Samples whose coming was undone can't be placed any more.
    const there = new Set(session.instrument?.samples.map((s) => s.sha));
    if (proposal.samples.every((s) => there.has(s.sha))) this.change({});
    else this.drop();
  }

  /** Shows what comes of another reading; −1: names say nothing. */
  async read(shown: number): Promise<void> {
    const { proposal } = this.store.getState();
    if (!proposal || shown === proposal.shown) return;
    const turn = ++this.turn;
    const evidence = await audioWorker().evidence(proposal.readings[shown] ?? null, proposal.sounds);
    if (turn === this.turn) this.change({ shown, evidence });
  }

  /** Takes a piece of a name for something else; null: for nothing. */
  async fix(name: number, piece: number, role: Role | null): Promise<void> {
    const { proposal } = this.store.getState();
    const reading = proposal?.readings[proposal.shown];
    if (!proposal || !reading) return;
    const turn = ++this.turn;
    const fixed = await audioWorker().fixRole(reading, proposal.sounds, name, piece, role);
    if (turn !== this.turn) return;
    if (!fixed) {
      tell("warning", "This piece can’t mean that: it says neither a note nor a number of that kind.");
      return;
    }
    // What was corrected stands first; the others stay to be gone back to.
    const readings = [fixed.reading, ...proposal.readings].slice(0, 4);
    this.change({ readings, shown: 0, evidence: fixed.evidence });
  }

  /** Reads the names by a pattern; a sentence that says what is wrong with it where it can't be read. */
  async readBy(pattern: string): Promise<string | null> {
    const { proposal } = this.store.getState();
    if (!proposal) return null;
    const turn = ++this.turn;
    const read = await audioWorker().byPattern(pattern, proposal.sounds);
    if (typeof read === "string") return read;
    if (turn !== this.turn) return null;
    this.change({ readings: [read.reading, ...proposal.readings].slice(0, 4), shown: 0, evidence: read.evidence });
    return null;
  }

  /** Believes what is heard of a sample, or what its name says. */
  believe(sha: string, sound: boolean): void {
    const heard = new Set(this.store.getState().proposal?.heard);
    if (sound) heard.add(sha);
    else heard.delete(sha);
    this.change({ heard });
  }

  /** Moves all that is proposed by whole octaves. */
  setOctaves(octaves: number): void {
    const { proposal } = this.store.getState();
    if (!proposal) return;
    // The limits go along, so that nothing falls out of them.
    const by = 12 * (octaves - proposal.octaves);
    const { low, high } = proposal.spread;
    const within = (key: number): number => Math.max(0, Math.min(127, key + by));
    this.change({ octaves, spread: { ...proposal.spread, low: within(low), high: within(high) } });
  }

  /** Gives each sound a key of its own, or places all as notes. */
  setKit(kit: boolean): void {
    this.change({ kit });
  }

  setInto(into: PlaceInto): void {
    this.change({ into });
  }

  setSpread(spread: Partial<SpreadOptions>): void {
    const { proposal } = this.store.getState();
    if (!proposal) return;
    const next = { ...proposal.spread, ...spread };
    this.change({ spread: { ...next, low: Math.min(next.low, next.high), high: Math.max(next.low, next.high) } });
  }

  /** Places what is proposed, as one step. */
  place(): void {
    const { proposal } = this.store.getState();
    const { instrument } = session;
    if (!proposal || !instrument || instrument.id !== proposal.of) return;
    const { placement, into, samples } = proposal;
    const gone = into === "replace" ? whatGoes(instrument) : null;
    session.keepBefore("placing");
    session.commit(placementEdit(instrument, placement, into, nameOf(samples), freshId));
    // Refused, as in a tab that only reads: what was proposed stays.
    if (session.instrument === instrument) return;
    this.drop();
    const { zones, doubts, leftOut, layered, kit, roots } = placement;
    const facts = [
      `${plural(zones.length, "sample")} placed, ${plural(doubts.length, "of them with a warning", "of them with warnings")}, ${leftOut.length} excluded.`,
      kit ? `A kit: ${plural(roots, "key")}, one for each sound.` : `${plural(roots, "root")}.`,
      layered && (into === "replace" || into === "layer")
        ? "Velocity layers were recorded, so velocity to level is 0 dB."
        : "",
      gone && gone.zones > 0 ? `They take the place of ${saysGone(gone)}.` : "",
    ];
    tell("good", facts.filter((f) => f !== "").join(" "), session.undoAction());
  }

  /** Nothing is placed; the samples stay. */
  drop(): void {
    this.turn++;
    if (this.store.getState().proposal === null) return;
    this.store.setState({ proposal: null });
    showEngine();
  }

  /** Lets the keys sound what is proposed, as long as it is in sight. */
  hear(): () => void {
    this.hearing = true;
    showEngine();
    return () => {
      this.hearing = false;
      showEngine();
    };
  }
  private hearing = false;

  /** What is to be heard of an instrument while something is proposed for it. */
  heard(instrument: Instrument): Instrument {
    const { proposal } = this.store.getState();
    if (!this.hearing || !proposal || proposal.of !== instrument.id) return instrument;
    return proposal.preview;
  }
}

/** What a new layer or group is called: the folder in which all lay, or what their names begin with. */
function nameOf(samples: readonly Sample[]): string {
  const paths = samples.map((s) => s.file?.path ?? s.name);
  const [first] = paths;
  const folder = first?.includes("/") ? first.slice(0, first.indexOf("/")) : "";
  if (folder && paths.every((p) => p.startsWith(`${folder}/`))) return folder.slice(0, 60);
  let common = first ?? "";
  for (const path of paths) while (common && !path.startsWith(common)) common = common.slice(0, -1);
  const word = common.replace(/[^\p{L}\p{N}]+$/u, "");
  return (word.length >= 3 ? word : "Placed").slice(0, 60);
}

export const proposing = new Proposing();
hearAs((instrument) => proposing.heard(instrument));

// What was proposed for another state of the instrument is worked out anew, so that nothing is lost of what was done meanwhile.
session.store.subscribe((state, before) => {
  const { proposal } = proposing.store.getState();
  if (!proposal) return;
  const now = state.history?.present;
  if (now === before.history?.present) return;
  if (now?.id !== proposal.of) proposing.drop();
  else proposing.refresh();
});
