/** A project that cannot be read: what is wrong in its own files, each with its text to be fixed. */

import { PageHead, FindingLine, Waiting } from "../parts/parts.js";
import { useAsked } from "../open-project.js";
import { useTexts } from "../texts/texts.js";
import { LayoutText } from "./layout.js";

export function BrokenPage() {
  const texts = useTexts();
  const { value: broken } = useAsked((workspace) => workspace.broken(), "broken");
  return (
    <>
      <PageHead
        location="sources"
        next={{ label: texts.nextSteps.broken, onClick: () => document.querySelector("textarea")?.focus() }}
      />
      <div className="notice error" role="alert">
        <div>
          <h2>{texts.brokenTitle}</h2>
          <p>{texts.brokenLead}</p>
        </div>
      </div>
      {!broken && <Waiting>{texts.doing.working}</Waiting>}
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
