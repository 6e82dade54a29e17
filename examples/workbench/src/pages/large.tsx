/** More than is read or rehearsed here without being asked: what can be done with it anyway. */

import { useProject } from "../open-project.js";
import { CommandLine, PageHead, useCommand } from "../parts/parts.js";
import { useTexts } from "../texts/texts.js";

const inMB = (bytes: number): string => `${Math.round(bytes / 1e6)} MB`;
const inGB = (bytes: number): string => `${(bytes / 1e9).toFixed(1)} GB`;

export function LargeNotice() {
  const texts = useTexts();
  const { bytes, sources, large } = useProject().overview!;
  const rows = sources.reduce((sum, source) => sum + (source.rows ?? 0), 0);
  const memory = inGB(large!.memory);
  const isRead = large!.what === "rehearsal";
  return (
    <div className="notice">
      <div>
        <h2>{isRead ? texts.largeRehearsalTitle(rows.toLocaleString()) : texts.largeTitle(inMB(bytes))}</h2>
        <p>{isRead ? texts.largeRehearsalLead(memory) : texts.largeLead(memory)}</p>
      </div>
    </div>
  );
}

/** In the place of all that would have to be read, or rehearsed, first. */
export function LargePage() {
  const texts = useTexts();
  const { act, overview } = useProject();
  const command = useCommand();
  const { what } = overview!.large!;
  const label = what === "rehearsal" ? texts.nextSteps.largeRehearsal : texts.nextSteps.large;
  const next = { label, onClick: () => void act((workspace) => workspace.allowLarge(what)) };
  return (
    <>
      <PageHead location={what} next={next} />
      <LargeNotice />
      <CommandLine line={command(what === "rehearsal" ? "rehearse" : "check")} />
    </>
  );
}
