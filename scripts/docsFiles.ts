/** `npm run docs:files`: writes the schema of the workshop's file and the columns of every table into docs/, from what checks them. */
import { writeFileSync } from "node:fs";
import { EVENT_KINDS, eventSchemas } from "#core/events";
import { workshopSchema } from "#core/exchange";
import { headingsOf } from "#services/exchange/csv";

const { $schema, ...schema } = workshopSchema;
export const schemaText = `${JSON.stringify({ $schema, ...schema, definitions: { payloads: eventSchemas } }, null, 2)}\n`;

export const tablesText = EVENT_KINDS.map(
  (kind) =>
    `| ${kind} | ${headingsOf(kind)
      .map((h) => `\`${h}\``)
      .join(", ")} |`,
).join("\n");

export const filesText = `# The workshop as files

Everything goes out and comes in under *Workshop, Files*; nothing is in a format of our own.

- **workshop-DAY.json**: everything that was ever written down, corrections and struck records too. Its shape is
  [workshop.schema.json](workshop.schema.json); the payload of a record is checked by \`definitions.payloads\` under its kind. Times are
  milliseconds since 1970, UTC; units are in the names. Every record has a key of its own, by which it is known again: the same file twice
  changes nothing. Materials are numbered within the file.
- **photos.zip**: \`photos/<sha-256 of the content>.<jpeg|png|webp>\`. Records name photos by that hash.
- **MACHINE-KIND.csv**: one kind of record as it stands after corrections. UTF-8, commas, first line the headings below. \`when\` is a moment in
  UTC, or without a zone the local time of the computer that reads it; \`key\` may be left out, then a record is known again by what it says.
  Semicolons and decimal commas are understood. Text that a spreadsheet would take for a formula stands behind an apostrophe.

A file is looked at first, and what it would change is said. All of it is taken in, or nothing: the first twenty problems are named with
line and column. A record that is here already is left as it is here.

| kind | columns |
|---|---|
${tablesText}

Lists in a cell: rungs \`9 dropped; 10.5 hangs; 12 stays\`, readings \`mirror-1 58; lens 52.5\`, speeds \`9; 10.5\`, places of a bed map
\`back-left 40 40: 9 dropped; 10 stays | middle 450 300: …\`. A material is named as the lists show it: \`3 mm birch ply\`.
`;

if (process.argv[1]?.endsWith("docsFiles.ts")) {
  writeFileSync("docs/workshop.schema.json", schemaText);
  writeFileSync("docs/files.md", filesText);
}
