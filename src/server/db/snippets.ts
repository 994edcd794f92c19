/** Lines kept for the console. */
import { database } from "./connection";

export interface Snippet {
  id: number;
  name: string;
  lines: string[];
  version: number;
}

const read = (row: { id: number; name: string; lines: string; version: number }): Snippet => ({
  ...row,
  lines: row.lines.split("\n"),
});

export const snippets = {
  list(): Snippet[] {
    return (database().prepare("SELECT * FROM snippets ORDER BY name, id").all() as Parameters<typeof read>[0][]).map(
      read,
    );
  },
  add({ name, lines }: Omit<Snippet, "id" | "version">): Snippet {
    const { lastInsertRowid } = database()
      .prepare("INSERT INTO snippets (name, lines) VALUES (?, ?)")
      .run(name, lines.join("\n"));
    return { id: Number(lastInsertRowid), name, lines, version: 1 };
  },
  remove(id: number): boolean {
    return database().prepare("DELETE FROM snippets WHERE id = ?").run(id).changes > 0;
  },
};
