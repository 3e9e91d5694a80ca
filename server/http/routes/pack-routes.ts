import { Router, type Request, type Response } from "express";
import type { Knex } from "knex";
import { parseRecordName, recordName } from "#contract/pack-records.ts";
import { idParamSchema } from "#contract/intake.ts";
import { OPERATIONS } from "#contract/operations.ts";
import { packEditSchema, restoreSchema } from "#contract/pack.ts";
import { requireEditor } from "#server/access/roles.ts";
import type { Structure } from "#server/db/structure.ts";
import { listChanges, undoChange } from "#server/history/history.ts";
import { editPack, restorePage } from "#server/packs/edit-pack.ts";
import { packDoor } from "#server/packs/pack-door.ts";
import { listPacks, monthInNames, readPack } from "#server/packs/packs.ts";
import { readRequest } from "#server/problems/to-problem.ts";
import { readerOf } from "./session-routes.ts";

/** Packs with their pages, how they are changed, and what was done to them. */
export function packRoutes({
  knex,
  readStructure,
}: {
  readonly knex: Knex;
  readonly readStructure: () => Promise<Structure>;
}): Router {
  const router = Router();
  const placeOf = (req: Request) => req.params as Record<"pack" | "page", string>;

  router.get(OPERATIONS.packs.path, async (_req, res) => {
    res.json(await listPacks(knex, monthInNames(await readStructure())));
  });
  router.get(OPERATIONS.pack.path, async (req, res) => {
    res.json(await readPack(knex, req.params["pack"], monthInNames(await readStructure())));
  });

  /** Runs a change of a pack for an editor, and answers with the pack as it is then. */
  const change = async (
    req: Request,
    res: Response,
    work: (trx: Knex.Transaction, structure: Structure, by: string) => Promise<number | null>,
  ) => {
    const { name } = requireEditor(readerOf(res));
    const structure = await readStructure();
    const made = await knex.transaction((trx) => work(trx, structure, name));
    res.json({ pack: await readPack(knex, placeOf(req).pack, monthInNames(structure)), change: made });
  };
  router.post(OPERATIONS.editPack.path, (req, res) =>
    change(req, res, (trx, structure, by) =>
      editPack(trx, structure, placeOf(req).pack, { ...readRequest(packEditSchema, req.body), by }),
    ),
  );
  router.post(OPERATIONS.restorePage.path, (req, res) =>
    change(req, res, (trx, _structure, by) =>
      restorePage(trx, { ...placeOf(req), ...readRequest(restoreSchema, req.body), by }),
    ),
  );
  router.get(OPERATIONS.pageHistory.path, async (req, res) => {
    requireEditor(readerOf(res));
    const { pack, page } = placeOf(req);
    const changes = await listChanges(knex, {
      area: "pack",
      records: [recordName({ kind: "page", pack, page })],
      recordsBelow: `panel/${pack}/${page}/`,
    });
    res.json(changes.map(({ diff: _, ...shown }) => shown));
  });
  router.post(OPERATIONS.undoPackChange.path, (req, res) =>
    change(req, res, (trx, _structure, by) =>
      undoChange(trx, {
        id: readRequest(idParamSchema, req.params["change"]),
        area: "pack",
        isOf: (name) => parseRecordName(name)?.pack === placeOf(req).pack,
        door: packDoor,
        by,
      }),
    ),
  );
  return router;
}
