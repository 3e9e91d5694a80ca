import { LOBBY } from "#contract/operations/lobby.ts";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import type { CompanyList } from "#contract/companies.ts";
import { call } from "../client/api.ts";
import { answerKey } from "../client/answer.ts";

/** The company that is looked at where nothing was entered: the sample, else the first one. */
export function enteredCompany({ companies, entered }: CompanyList): CompanyList["companies"][number] | undefined {
  return companies.find(({ key }) => key === entered) ?? companies[0];
}

/** Which company one signs in to, and the way to one of one's own. */
export function CompanyChoice({ list, onEntered }: { list: CompanyList; onEntered: () => void }) {
  const client = useQueryClient();
  const current = enteredCompany(list);
  const enter = useMutation({
    mutationFn: (company: string) => call(LOBBY.enterCompany, { body: { company } }),
    onSuccess: (answer) => {
      client.clear();
      client.setQueryData(answerKey(LOBBY.companies), answer);
      onEntered();
    },
  });
  return (
    <section aria-label="Company" className="mb-5">
      <ul className="flex flex-wrap gap-x-5 gap-y-2 border-b border-thread pb-3">
        {list.companies.map(({ key, name, isSample }) => (
          <li key={key}>
            <button
              type="button"
              aria-pressed={key === current?.key}
              disabled={enter.isPending}
              onClick={() => key !== current?.key && enter.mutate(key)}
              className={`min-h-[26px] text-left ${key === current?.key ? "border-b-2 border-accent font-semibold" : "text-accent hover:underline"}`}
            >
              {name}
              {isSample && <span className="font-normal text-slate"> · sample</span>}
            </button>
          </li>
        ))}
        {list.mayStart && (
          <li className="ml-auto">
            <Link to="/start" className="inline-block min-h-[26px] text-accent hover:underline">
              Start your own company
            </Link>
          </li>
        )}
      </ul>
      {enter.error && (
        <p role="alert" className="mt-2 border-l-2 border-madder pl-3">
          {enter.error.message}
        </p>
      )}
    </section>
  );
}
