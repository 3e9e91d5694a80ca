import { PEOPLE } from "#contract/operations/people.ts";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import { SHORTEST_PASSWORD, type PersonList } from "#contract/companies.ts";
import { call } from "../client/api.ts";
import { AnswerSheet } from "../ui/answer-sheet.tsx";
import { Button, Field } from "../ui/form.tsx";
import { PlainTable } from "../ui/table.tsx";
import { answerKey, useAnswer } from "../client/answer.ts";

type Role = PersonList[number]["role"];

/** The roles, with what each may do. */
const ROLES: Readonly<Record<Role, string>> = {
  analyst: "loads data, maintains KPIs and pages",
  executive: "reads",
  "area-manager": "reads",
  administrator: "does all of that, and manages the company and its people",
};

/** The company's people: added by name, address and role, with a first password that they change themselves. */
export function PeopleSheet() {
  const people = useAnswer(PEOPLE.people);
  const client = useQueryClient();
  const change = useMutation({
    mutationFn: (send: () => Promise<PersonList>) => send(),
    onSuccess: (answer) => client.setQueryData(answerKey(PEOPLE.people), answer),
  });
  return (
    <AnswerSheet label="People" answer={people} skeleton={<div className="waiting m-5 h-24" />}>
      {(data) => (
        <div className="p-5">
          <h2 className="font-serif text-lg">People</h2>
          <PlainTable heads={["Name", "E-mail", "Role", ""]}>
            {data.map((person) => (
              <tr key={person.id} className="border-t border-thread/60 align-baseline">
                <th scope="row" className="py-1.5 pr-4 text-left font-semibold">
                  {person.name}
                  {person.isYou && <span className="font-normal text-slate"> · you</span>}
                  {person.title !== "" && <span className="block font-normal text-slate">{person.title}</span>}
                </th>
                <td className="pr-4">
                  {person.email}
                  {person.hasFirstPassword && <span className="block text-slate">has yet to sign in</span>}
                </td>
                <td className="pr-4">
                  <select
                    className="field !w-auto"
                    aria-label={`Role of ${person.name}`}
                    value={person.role}
                    disabled={change.isPending}
                    onChange={(event) =>
                      change.mutate(() =>
                        call(PEOPLE.changePerson, {
                          params: { person: person.id },
                          body: { role: event.target.value as Role },
                        }),
                      )
                    }
                  >
                    {(Object.keys(ROLES) as Role[]).map((role) => (
                      <option key={role} value={role}>
                        {role.replace("-", " ")}
                      </option>
                    ))}
                  </select>
                </td>
                <td className="text-right">
                  {!person.isYou && (
                    <Button
                      isDisabled={change.isPending}
                      title="Their loads stay under their name"
                      onClick={() => change.mutate(() => call(PEOPLE.removePerson, { params: { person: person.id } }))}
                    >
                      Remove
                    </Button>
                  )}
                </td>
              </tr>
            ))}
          </PlainTable>
          {change.error && (
            <p role="alert" className="mt-2 border-l-2 border-madder pl-3">
              {change.error.message}
            </p>
          )}
          <NewPerson key={data.length} isBusy={change.isPending} onAdd={(send) => change.mutate(send)} />
        </div>
      )}
    </AnswerSheet>
  );
}

function NewPerson({ isBusy, onAdd }: { isBusy: boolean; onAdd: (send: () => Promise<PersonList>) => void }) {
  const [person, setPerson] = useState({ name: "", email: "", title: "", role: "analyst" as Role, password: "" });
  const set = (change: Partial<typeof person>) => setPerson({ ...person, ...change });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onAdd(() => call(PEOPLE.addPerson, { body: person }));
  };
  return (
    <form className="mt-4 grid gap-3 border-t border-thread pt-4 sm:grid-cols-3" onSubmit={submit}>
      <Field label="Name">
        <input
          className="field"
          required
          maxLength={80}
          value={person.name}
          onChange={(e) => set({ name: e.target.value })}
        />
      </Field>
      <Field label="E-mail">
        <input
          className="field"
          type="email"
          required
          maxLength={200}
          value={person.email}
          onChange={(e) => set({ email: e.target.value })}
        />
      </Field>
      <Field label="Title (optional)">
        <input className="field" maxLength={80} value={person.title} onChange={(e) => set({ title: e.target.value })} />
      </Field>
      <Field label="Role">
        <select className="field" value={person.role} onChange={(e) => set({ role: e.target.value as Role })}>
          {(Object.keys(ROLES) as Role[]).map((role) => (
            <option key={role} value={role}>
              {role.replace("-", " ")}
            </option>
          ))}
        </select>
      </Field>
      <Field label={`Initial password, at least ${SHORTEST_PASSWORD} characters`}>
        <input
          className="field"
          required
          autoComplete="off"
          minLength={SHORTEST_PASSWORD}
          maxLength={200}
          value={person.password}
          onChange={(e) => set({ password: e.target.value })}
        />
      </Field>
      <div className="flex items-end">
        <Button kind="main" type="submit" isDisabled={isBusy}>
          Add person
        </Button>
      </div>
      <p className="text-slate sm:col-span-3">{`An ${person.role.replace("-", " ")} ${ROLES[person.role]}.`}</p>
    </form>
  );
}
