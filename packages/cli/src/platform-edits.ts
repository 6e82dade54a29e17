/** What a colleague does on a stand-in between two imports: five edits, over HTTP, as the platform's own screens would make them. */

type Post = (path: string, body: string) => Promise<unknown>;

const edits: Readonly<Record<string, (url: string, post: Post) => Promise<void>>> = {
  pennywort: async (_, post) => {
    const rows = [
      "Item;Code;Title de;Stock",
      "crown-board;;Abdeckbrett;",
      "hive-diary;;Stockkarte, gebunden;",
      "wick;BC-WK-1M;Kerzendocht;3",
      "wax-melter;BC-WM;Sonnenwachsschmelzer;1",
    ];
    await post("/imports/by-hand.csv", `${rows.join("\r\n")}\r\n`);
    await post("/imports/by-hand.csv", "Item;Code;Price\r\nuncapping-bath;BC-UB;61,00\r\n");
  },
  saltmarsh: async (url, post) => {
    const ids = async (register: string, at: number) => {
      const text = await (await fetch(`${url}/exports/${register}`)).text();
      return new Map(
        text
          .split("\n")
          .slice(1, -1)
          .map((line) => [line.split("\t")[at]!, line.split("\t")[0]!]),
      );
    };
    const goods = await ids("goods", 1);
    const forms = await ids("forms", 2);
    await post(
      "/imports/words/de",
      `Id\tTitle\n${goods.get("crown-board")}\tAbdeckbrett\n${goods.get("hive-diary")}\tStockkarte, gebunden\n`,
    );
    await post(
      "/imports/stocks",
      `Of\tStore\tCount\n${forms.get("BC-WK-1M")}\tBarn\t3\n${goods.get("wax-melter")}\tBarn\t1\n`,
    );
    await post("/imports/amounts", `Of\tSort\tAmount\n${goods.get("uncapping-bath")}\tprice\t61.00\n`);
  },
  tollgate: async (_, post) => {
    const sold = { "BC-WK-1M": 3, "BC-WM": 1, "BC-UB": 2, "BC-BD": 5, "BC-CB-10FR": 4 };
    for (const [code, count] of Object.entries(sold))
      await post("/tills", JSON.stringify({ code, place: "Barn", count }));
  },
};

/** @throws Error when the stand-in does not take them. */
export async function editOnPlatform(target: string, url: string): Promise<void> {
  await edits[target]!(url, async (path, body) => {
    const response = await fetch(url + path, { method: "POST", body });
    const answer: unknown = await response.json();
    const text = JSON.stringify(answer);
    if (!response.ok || text.includes('"outcome":"refused"') || text.includes('"written":false'))
      throw new Error(`${target} did not take an edit by hand: ${text}`);
  });
}
