import { constants } from "node:zlib";
import compression from "compression";
import cookieParser from "cookie-parser";
import express, { type ErrorRequestHandler, type Express } from "express";
import helmet from "helmet";
import type { Logger } from "pino";
import { pinoHttp } from "pino-http";
import { isGivenUp } from "#server/db/ask-unless-gone.ts";
import { problemDocument } from "#server/problems/problem-error.ts";
import { toProblem } from "#server/problems/to-problem.ts";
import { refuseOtherHosts, refuseOtherOrigins } from "./guards/origin.ts";
import { csvBody, jsonBody } from "./guards/request-body.ts";
import { LINES_TYPE } from "./json-lines.ts";
import { refuseUnkeepableText } from "./guards/request-text.ts";

/** An application with what stands before every route: logging, headers, packing, guards, bodies and cookies. */
export function baseApp({
  logger,
  hosts,
  proxies,
}: {
  logger: Logger;
  hosts: ReadonlySet<string>;
  proxies: readonly string[];
}): Express {
  const app = express();
  app.disable("x-powered-by");
  trustProxies(app, proxies);
  app.set("query parser", "simple");
  app.use(
    pinoHttp({
      logger,
      autoLogging: { ignore: (req) => !req.url?.startsWith("/api/") || req.url === "/api/health" },
      serializers: {
        req: (req: { method: string; url: string }) => ({ method: req.method, url: req.url.split("?")[0] }),
        res: (res: { statusCode: number }) => ({ status: res.statusCode }),
      },
    }),
  );
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          "script-src": ["'self'"],
          "style-src": ["'self'", "'unsafe-inline'"],
          "img-src": ["'self'", "data:"],
          "upgrade-insecure-requests": null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use((req, res, next) => (req.path.startsWith("/api/") ? packQuickly : packTightly)(req, res, next));
  app.use(serverTiming);
  app.use("/api", (_req, res, next) => {
    res.setHeader("Cache-Control", "no-store");
    next();
  });
  app.use(refuseOtherHosts(hosts));
  app.use(refuseOtherOrigins(hosts));
  app.use(jsonBody, csvBody);
  app.use(refuseUnkeepableText);
  app.use(cookieParser());
  return app;
}

/** Throws an `Error` that names what was said where it is no address. */
function trustProxies(app: Express, proxies: readonly string[]): void {
  try {
    app.set("trust proxy", proxies.length === 0 ? false : proxies);
  } catch (error) {
    throw new Error(
      `HACKLE_PROXIES is "${proxies.join(", ")}"; it names addresses or networks of proxies, such as 127.0.0.1, 10.0.0.0/8. (${(error as Error).message})`,
      { cause: error },
    );
  }
}

/** Answers took milliseconds to make and must not take longer to pack. */
const packQuickly = compression({
  filter: (req, res) => compression.filter(req, res) || String(res.getHeader("Content-Type")).includes(LINES_TYPE),
  level: constants.Z_BEST_SPEED,
  brotli: { params: { [constants.BROTLI_PARAM_QUALITY]: 1 } },
});

/** The client's files are sent once to each browser, over whatever line there is. */
const packTightly = compression();

/** Says in a header how long the server took, so that anyone can see it in the browser's network panel. */
const serverTiming: express.RequestHandler = (_req, res, next) => {
  const start = performance.now();
  const writeHead = res.writeHead.bind(res);
  res.writeHead = ((...args: Parameters<typeof writeHead>) => {
    if (!res.headersSent) res.setHeader("Server-Timing", `total;dur=${(performance.now() - start).toFixed(1)}`);
    return writeHead(...args);
  }) as typeof res.writeHead;
  next();
};

/** Answers whatever a route throws as a problem document. */
export function answerProblem(logger: Logger): ErrorRequestHandler {
  return (error: unknown, req, res, next) => {
    // Nobody is there to be told of what was given up because they went.
    if (res.destroyed && isGivenUp(error)) return;
    if (res.headersSent) {
      next(error);
      return;
    }
    const problem = toProblem(error);
    if (problem.code === "internal") logger.error({ err: problem.cause, url: req.path }, "unforeseen error");
    if (problem.code === "database-unavailable")
      logger.warn({ url: req.path, reason: (problem.cause as Error | undefined)?.message }, "database does not answer");
    const document = problemDocument(problem);
    if (document.status === 503) res.setHeader("Retry-After", "2");
    // What is left of an upload that was refused is not read: its connection serves nothing more.
    if (!req.complete) res.setHeader("Connection", "close");
    res.status(document.status).type("application/problem+json").send(JSON.stringify(document));
  };
}
