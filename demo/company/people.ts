import type { Scope } from "#core/dimensions/scope.ts";

/** A sample person, who may see only what lies in `scope`. */
export interface SamplePerson {
  readonly email: string;
  readonly name: string;
  readonly title: string;
  readonly role: "analyst" | "area-manager" | "executive" | "administrator";
  readonly scope: Scope;
}

export const PEOPLE: readonly SamplePerson[] = [
  {
    email: "maren.holt@quillhaven.example",
    name: "Maren Holt",
    title: "Financial planning analyst",
    role: "analyst",
    scope: {},
  },
  {
    email: "tomas.reyl@quillhaven.example",
    name: "Tomas Reyl",
    title: "Area manager, Skerry Sound",
    role: "area-manager",
    scope: { route: ["skerry-sound"] },
  },
  {
    email: "ines.varga@quillhaven.example",
    name: "Ines Varga",
    title: "Area manager, Northreach",
    role: "area-manager",
    scope: { route: ["northreach"] },
  },
  {
    email: "clara.oduya@quillhaven.example",
    name: "Clara Oduya",
    title: "Finance director",
    role: "executive",
    scope: {},
  },
  {
    email: "jon.askeland@quillhaven.example",
    name: "Jon Askeland",
    title: "Administrator",
    role: "administrator",
    scope: {},
  },
];
