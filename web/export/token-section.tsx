import { TOKENS } from "#contract/operations/tokens.ts";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { call } from "../client/api.ts";
import { AnswerSheet } from "../ui/answer-sheet.tsx";
import { Button, TextField } from "../ui/form.tsx";
import { PlainTable } from "../ui/table.tsx";
import { dateTimeWords } from "../ui/date-time-words.ts";
import { useAnswer, answerKey } from "../client/answer.ts";

/** Personal tokens: by them other programs read what their person may see. */
export function TokenSection() {
  const tokens = useAnswer(TOKENS.tokens);
  const client = useQueryClient();
  const [name, setName] = useState("");
  const [made, setMade] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const run = async (work: () => Promise<unknown>) => {
    setProblem(null);
    try {
      await work();
      await client.invalidateQueries({ queryKey: answerKey(TOKENS.tokens) });
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const make = () =>
    run(async () => {
      const { token } = await call(TOKENS.createToken, { body: { name } });
      setMade(token);
      setName("");
    });
  return (
    <AnswerSheet label="Personal tokens" answer={tokens} skeleton={<div className="waiting m-5 h-16" />}>
      {(data) => (
        <div className="px-5 py-3">
          <h2 className="font-serif text-[16px]">Personal tokens</h2>
          <p className="text-[13px] text-slate">
            Another program reads what you may see, and changes nothing, when it sends{" "}
            <code>Authorization: Bearer …</code> with a token. Every panel has a CSV address.
          </p>
          <form
            className="mt-2 flex items-end gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              void make();
            }}
          >
            <TextField key={data.length} label="Purpose" value={name} onCommit={setName} />
            <Button type="submit" isDisabled={name === ""}>
              Create token
            </Button>
          </form>
          {problem && (
            <p role="alert" className="mt-1 text-madder">
              {problem}
            </p>
          )}
          {made && (
            <p role="status" className="mt-2 border-l-2 border-weld pl-3">
              Copy it now; it is not shown again: <code className="break-all">{made}</code>
            </p>
          )}
          {data.length > 0 && (
            <div className="mt-2 max-w-3xl">
              <PlainTable heads={["For", "Made", "Last used", ""]}>
                {data.map((token) => (
                  <tr key={token.id} className="border-t border-thread/60">
                    <th scope="row" className="py-1 pr-4 text-left font-semibold">
                      {token.name}
                    </th>
                    <td className="pr-4">{dateTimeWords(token.createdAt)}</td>
                    <td className="pr-4">{token.lastUsedAt ? dateTimeWords(token.lastUsedAt) : "never"}</td>
                    <td>
                      <Button onClick={() => void run(() => call(TOKENS.revokeToken, { params: { token: token.id } }))}>
                        Revoke
                      </Button>
                    </td>
                  </tr>
                ))}
              </PlainTable>
            </div>
          )}
        </div>
      )}
    </AnswerSheet>
  );
}
