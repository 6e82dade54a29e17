/** More to read than is read here without being asked: what can be done with it all the same. */

import { useBench } from "../bench.js";
import { CommandLine, PlaceHead, useCommand } from "../parts/parts.js";
import { useWords } from "../words/words.js";

export function LargeNotice() {
  const words = useWords();
  const { overview } = useBench();
  return (
    <div className="notice">
      <div>
        <h2>{words.largeTitle(`${Math.round(overview!.bytes / 1_000_000)} MB`)}</h2>
        <p>{words.largeLead}</p>
      </div>
    </div>
  );
}

/** In the place of all that would have to be read first. */
export function LargePlace() {
  const words = useWords();
  const { act } = useBench();
  const command = useCommand();
  const next = { label: words.nextSteps.large, onClick: () => void act((desk) => desk.allowLarge()) };
  return (
    <>
      <PlaceHead place="sources" next={next} />
      <LargeNotice />
      <CommandLine line={command("check")} />
    </>
  );
}
