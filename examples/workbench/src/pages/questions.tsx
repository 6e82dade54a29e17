/** What could not be known when files were made a project: each question with what is assumed, to be replied to. */

import { Button, NativeSelect, TextInput } from "@mantine/core";
import { useState } from "react";
import type { Question } from "zest-tier";
import { useProject } from "../open-project.js";
import type { OpenResult } from "../workspace/workspace.js";
import { useTexts } from "../texts/texts.js";

export function Questions({ questions }: { readonly questions: readonly Question[] }) {
  const texts = useTexts();
  const { act } = useProject();
  const [replies, setReplies] = useState<Readonly<Record<string, string>>>({});
  const replyTo = ({ name, answer, preset }: Question) => replies[name] ?? answer ?? preset;
  const send = () => {
    const all = Object.fromEntries(questions.map((one) => [one.name, replyTo(one)]));
    void act<OpenResult>((workspace) => workspace.reply(all));
  };
  return (
    <form
      className="questions"
      aria-labelledby="questions-title"
      onSubmit={(event) => {
        event.preventDefault();
        send();
      }}
    >
      <h2 id="questions-title">{texts.questions.title}</h2>
      <p className="soft">{texts.questions.hint}</p>
      {questions.map((one) => {
        const change = (reply: string) => setReplies((before) => ({ ...before, [one.name]: reply }));
        return one.choices ? (
          <NativeSelect
            key={one.name}
            size="xs"
            label={one.asks}
            value={replyTo(one)}
            data={[...one.choices]}
            onChange={(event) => change(event.currentTarget.value)}
          />
        ) : (
          <TextInput
            key={one.name}
            size="xs"
            label={one.asks}
            value={replyTo(one)}
            onChange={(event) => change(event.currentTarget.value)}
          />
        );
      })}
      <Button type="submit" size="xs" variant="default">
        {texts.questions.use}
      </Button>
    </form>
  );
}
