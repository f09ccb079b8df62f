/** `npm run bench`: each benchmark runs both sides in this one run and prints ratios. */
import "./benchTrace";
import "./benchPages";
