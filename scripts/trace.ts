/** `npm run -s trace -- case.json`: the trace engine without the interface. A wrong file is named on stderr, exit code 2. */
import { CaseFileError, reportOnFile } from "./traceFile";

try {
  const [path] = process.argv.slice(2);
  if (path === undefined) throw new CaseFileError("usage: npm run -s trace -- case.json");
  process.stdout.write(reportOnFile(path));
} catch (error) {
  if (!(error instanceof CaseFileError)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exit(2);
}
