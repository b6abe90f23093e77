import { randomUUID } from 'node:crypto';
import { Client } from 'pg';

/** Where the PostgreSQL server of the tests is; tests run on the embedded database if it isn't set. */
const SERVER = 'GULL_PANE_TEST_POSTGRES';

/** A database of its own for one server under test. */
export class TestDatabase {
  private constructor(
    private readonly name: string,
    private readonly server: string,
  ) {}

  /** @returns null where tests run on the embedded database */
  static async create(): Promise<TestDatabase | null> {
    const server = process.env[SERVER];
    if (server === undefined) return null;
    const database = new TestDatabase(`test_${randomUUID().replaceAll('-', '')}`, server);
    await database.#ask(`create database ${database.name}`);
    return database;
  }

  get env(): NodeJS.ProcessEnv {
    const url = new URL(this.server);
    url.pathname = this.name;
    return { GULL_PANE_DATABASE_URL: url.href };
  }

  async drop(): Promise<void> {
    await this.#ask(`drop database ${this.name} with (force)`);
  }

  async #ask(statement: string): Promise<void> {
    const client = new Client({ connectionString: this.server });
    await client.connect();
    await client.query(statement);
    await client.end();
  }
}
