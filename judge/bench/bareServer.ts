/** The other side of the load bench: Express and nothing else, answering every request with the bytes of a file. */
import { readFileSync } from "node:fs";
import express from "express";

const html = readFileSync(process.argv[2] as string);
const app = express();
app.use((_request, response) => void response.type("html").send(html));
const server = app.listen(0, "127.0.0.1", () => {
  const address = server.address();
  process.stdout.write(`${typeof address === "object" ? address?.port : ""}\n`);
});
