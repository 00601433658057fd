// Asks npm's http-cache-semantics for how long answers are fresh: reads [[status, headers, received in s], ...].
import { createRequire } from "node:module";
import { readFileSync } from "node:fs";

const CachePolicy = createRequire(`${process.argv[2]}/package.json`)("http-cache-semantics");
const realNow = Date.now;

const left = ([status, headers, received]) => {
  Date.now = () => received * 1000;
  const policy = new CachePolicy(
    { url: "/icon.png", method: "GET", headers: {} },
    { status, headers },
    { shared: false, cacheHeuristic: 0.1, immutableMinTimeToLive: 0 },
  );
  const fresh = policy.storable() ? policy.timeToLive() / 1000 : 0;
  return { storable: policy.storable(), fresh };
};

const answers = JSON.parse(readFileSync(0, "utf8")).map(left);
Date.now = realNow;
process.stdout.write(JSON.stringify(answers));
