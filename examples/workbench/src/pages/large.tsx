/** More to read than is read here without being asked: what can be done with it anyway. */

import { useProject } from "../open-project.js";
import { CommandLine, PageHead, useCommand } from "../parts/parts.js";
import { useTexts } from "../texts/texts.js";

export function LargeNotice() {
  const texts = useTexts();
  const { overview } = useProject();
  return (
    <div className="notice">
      <div>
        <h2>{texts.largeTitle(`${Math.round(overview!.bytes / 1_000_000)} MB`)}</h2>
        <p>{texts.largeLead}</p>
      </div>
    </div>
  );
}

/** In the place of all that would have to be read first. */
export function LargePage() {
  const texts = useTexts();
  const { act } = useProject();
  const command = useCommand();
  const next = { label: texts.nextSteps.large, onClick: () => void act((workspace) => workspace.allowLarge()) };
  return (
    <>
      <PageHead location="sources" next={next} />
      <LargeNotice />
      <CommandLine line={command("check")} />
    </>
  );
}
