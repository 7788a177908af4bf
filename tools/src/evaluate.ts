/** `npm run -s evaluate -- FILE [--build NAME] [--simulate] [--change]`: the evaluation of a bundle as JSON on stdout; problems on stderr, exit code 2. */
import { InputProblem, answerOf } from './evaluateCommand.js';

try {
  // npm runs this from the project's folder; the path was typed in the user's.
  process.stdout.write(answerOf(process.argv.slice(2), process.env.INIT_CWD ?? process.cwd()));
} catch (error) {
  if (!(error instanceof InputProblem)) throw error;
  console.error(error.message);
  process.exitCode = 2;
}
