/** Light or dark, English or German. */

import { ActionIcon, SegmentedControl, useComputedColorScheme, useMantineColorScheme } from "@mantine/core";
import { useLanguage } from "./frame.js";
import { Icon } from "./icon.js";

const labels = {
  en: { dark: "Dark", light: "Light", language: "Language of the interface" },
  de: { dark: "Dunkel", light: "Hell", language: "Sprache der Oberfläche" },
};

export function Switches() {
  const { lang, speak } = useLanguage();
  const { setColorScheme } = useMantineColorScheme();
  const scheme = useComputedColorScheme("light");
  const other = scheme === "dark" ? "light" : "dark";
  return (
    <>
      <SegmentedControl
        size="xs"
        aria-label={labels[lang].language}
        value={lang}
        onChange={(value) => speak(value)}
        data={[
          { value: "en", label: "EN" },
          { value: "de", label: "DE" },
        ]}
      />
      <ActionIcon
        variant="default"
        size={32}
        aria-label={labels[lang][other]}
        title={labels[lang][other]}
        onClick={() => setColorScheme(other)}
      >
        <Icon name={other === "dark" ? "moon" : "sun"} />
      </ActionIcon>
    </>
  );
}
