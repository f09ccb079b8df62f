/** `npm run bench`: each benchmark runs both sides in this one run and prints ratios. */
import "./benchEngine";
import "./benchPages";
