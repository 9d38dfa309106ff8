import type { Newer } from "@/contracts/answers";
import type { Command } from "@/core/commands/command";
import { templateEngine } from "@/core/commands/template-engine";
import { hashOf } from "@/core/model/hash";
import { TEMPLATE, type Template } from "@/core/model/template";
import type { Edit } from "@/core/planning/edits/edit";
import { templateEditing } from "@/core/planning/edits/template-editing";

interface Batch {
  readonly base: number;
  readonly batch: string | null;
  readonly commands: readonly Command[];
  readonly name: string;
  readonly baseSavedAt?: string;
}

/** A stand-in for the service: keeps revisions as the real one does, and can be away or lose an answer. */
export class FakeService {
  doc: Template;
  /** Tells one past from another, as the times of saving do. */
  past = "2026-11-26T10:00:00.";
  revisions: Newer[] = [];
  gone = false;
  private clock = 100;
  posts = 0;
  /** How often something was sent, whether it came here or not. */
  tries = 0;
  away = false;
  loseNextAnswer = false;
  refuseNext: string | null = null;
  renewed = false;
  /** The next answer says another hash than that of what was saved. */
  wrongHash = false;
  private readonly hashes = new Map<number, string>();

  constructor(private readonly first: Template) {
    this.doc = first;
  }

  get head(): number {
    return this.revisions.length + 1;
  }

  savedAt(revision: number): string {
    return this.revisions[revision - 2]?.savedAt ?? `${this.past}001Z`;
  }

  /**
   * Its data are those of an earlier hour: all but the first revisions are lost, and what is saved from now on is
   * another past.
   */
  restoreTo(revision: number, past = this.past): void {
    this.revisions = this.revisions.slice(0, revision - 1);
    const done = templateEngine.applyAll(
      this.first,
      this.revisions.flatMap((kept) => kept.commands),
    );
    if (done.ok) this.doc = done.doc;
    this.past = past;
  }

  /** Another window's edits, planned as it would. */
  does(base: number, batch: string, edits: readonly Edit[]): Response {
    const planned = templateEditing.plan(this.doc, edits);
    if (!planned.ok) throw new Error(`expected the edits to be possible, got: ${planned.refusal.message}`);
    return this.save({ base, batch, commands: planned.commands, name: planned.names[0] ?? "" });
  }

  save({ base, batch, commands, name, baseSavedAt = this.savedAt(base) }: Batch): Response {
    if (this.gone) return Response.json({ status: 404, detail: "gone" }, { status: 404 });
    const known = this.revisions.find((revision) => revision.batch === batch && revision.revision <= base + 1);
    if (known)
      return Response.json({ revision: known.revision, savedAt: known.savedAt, hash: this.hashes.get(known.revision) });
    if (base > this.head || baseSavedAt !== this.savedAt(base))
      return Response.json(
        { status: 409, detail: "another past", parted: true, head: this.head, newer: [] },
        { status: 409 },
      );
    const newer = this.revisions.filter((revision) => revision.revision > base);
    const done = templateEngine.applyAll(this.doc, commands);
    if (!done.ok && newer.length) return Response.json({ status: 409, detail: "stale", newer }, { status: 409 });
    if (!done.ok) return Response.json({ status: 422, detail: done.refusal.message }, { status: 422 });
    this.doc = done.doc;
    this.revisions.push({
      revision: this.head + 1,
      savedAt: `2026-11-26T12:00:00.${this.clock++}Z`,
      batch,
      by: "",
      origin: null,
      names: [name],
      commands,
    });
    const hash = this.wrongHash ? "0".repeat(32) : hashOf(TEMPLATE, this.doc);
    this.wrongHash = false;
    this.hashes.set(this.head, hash);
    return Response.json({
      revision: this.head,
      savedAt: this.savedAt(this.head),
      hash,
      ...(newer.length ? { newer } : {}),
    });
  }

  readonly fetch = async (path: string, init?: RequestInit): Promise<Response> => {
    if (init?.method) this.tries++;
    if (this.away) throw new TypeError("connection refused");
    const since = /since=(\d+)/.exec(path)?.[1];
    if (this.gone) return Response.json({ status: 404, detail: "gone" }, { status: 404 });
    if (since)
      return Response.json({
        head: this.head,
        sinceSavedAt: Number(since) <= this.head ? this.savedAt(Number(since)) : null,
        newer: this.revisions.filter((revision) => revision.revision > Number(since)),
        more: false,
      });
    if (!init?.method)
      return Response.json({ document: this.doc, revision: this.head, savedAt: this.savedAt(this.head) });
    this.posts++;
    if (this.renewed) return Response.json({ status: 409, detail: "renewed", renewed: true }, { status: 409 });
    if (this.refuseNext) {
      const detail = this.refuseNext;
      this.refuseNext = null;
      return Response.json({ status: 422, detail }, { status: 422 });
    }
    const body = JSON.parse(String(init?.body));
    const answer = this.save(body);
    if (!this.loseNextAnswer) return answer;
    this.loseNextAnswer = false;
    throw new TypeError("connection lost");
  };
}
