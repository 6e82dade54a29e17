/** A project that cannot be read: what is wrong in its own files, each with its text to be mended. */

import { PlaceHead, FindingLine, Waiting } from "../parts/parts.js";
import { useAsked } from "../bench.js";
import { useWords } from "../words/words.js";
import { LayoutText } from "./layout.js";

export function BrokenPlace() {
  const words = useWords();
  const { value: broken } = useAsked((desk) => desk.broken(), "broken");
  return (
    <>
      <PlaceHead
        place="sources"
        next={{ label: words.nextSteps.broken, onClick: () => document.querySelector("textarea")?.focus() }}
      />
      <div className="notice error" role="alert">
        <div>
          <h2>{words.brokenTitle}</h2>
          <p>{words.brokenLead}</p>
        </div>
      </div>
      {!broken && <Waiting>{words.doing.working}</Waiting>}
      {broken?.map(({ file, text, mistakes }) => (
        <section key={file} className="card" aria-label={file}>
          <h2>
            <code>{file}</code>
          </h2>
          <ul>
            {mistakes.map((one, at) => (
              <FindingLine key={at} finding={one} />
            ))}
          </ul>
          {text !== "" && <LayoutText file={file} text={text} isFixed={false} />}
        </section>
      ))}
    </>
  );
}
