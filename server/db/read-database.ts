import type { Knex } from "knex";
import { readDataVersion } from "./data-version.ts";
import { onceATurn } from "./once-a-turn.ts";

/** A replica that did not answer is not asked again sooner. */
const PAUSE_MS = 5000;

/**
 * Where facts are read: a replica while it has come as far as what is asked of it, and the database itself where there
 * is none, where it is behind, and where it does not answer.
 */
export class ReadDatabase {
  private silentUntil = 0;
  private readonly versionOfReplica = onceATurn(async (_: "") => (await readDataVersion(this.replica!)).version);

  constructor(
    readonly own: Knex,
    private readonly replica: Knex | null,
    private readonly onSilent: (error: unknown) => void = () => {},
  ) {}

  /** The database to read facts from that belong to a version of the data. */
  async at(version: string): Promise<Knex> {
    if (!this.replica || Date.now() < this.silentUntil) return this.own;
    try {
      return (await this.versionOfReplica("")) === version ? this.replica : this.own;
    } catch (error) {
      this.silentUntil = Date.now() + PAUSE_MS;
      this.onSilent(error);
      return this.own;
    }
  }

  /** The database to read facts from as they are now. */
  async now(): Promise<Knex> {
    return this.replica ? this.at((await readDataVersion(this.own)).version) : this.own;
  }
}
