/** The API client: typed by the server's own OpenAPI document. */
import createClient from "openapi-fetch";
import { client as say } from "../texts/api";
import type { components, paths } from "./schema";

type Schemas = components["schemas"];
export type Evaluation = Schemas["Evaluation"];
export type Outcome = Schemas["Outcome"];
export type Station = Schemas["Station"];
export type Finding = Schemas["Finding"];
export type FindingFixes = Schemas["FindingFixes"];
export type Ranges = Schemas["Ranges"];
export type Build = Schemas["BuildOut"];
export type SetupRow = Schemas["SetupOut"];
export type Overview = Schemas["OverviewOut"];
export type Garage = Schemas["GarageOut"];
export type BuildGlance = Schemas["BuildGlance"];
export type RackPart = Schemas["RackPartOut"];
export type PartEntry = Schemas["LogLineOut"];
export type PackLife = Schemas["PackLife"];
export type SubstituteOut = Schemas["SubstituteOut"];
export type KitFit = Schemas["KitFit"];
export type Photo = Schemas["PhotoOut"];
export type PartsList = Schemas["PartsOut"];
export type Setup = Schemas["Setup"];
export type Patch = Schemas["CheckedFix"]["patch"];
export type HouseRules = Schemas["HouseRules"];
export type Pack = Schemas["Pack"];
export type Need = Schemas["NeedOut"];
export type Rider = Schemas["RiderOut"];
export type Trial = Schemas["TrialOut"];
export type NewTrial = Schemas["TrialIn"];
export type JournalEntry = Schemas["EntryOut"];
export type Hookup = Schemas["Hookup"];
export type Step = Schemas["Step"];
export type Standing = Schemas["Standing"];
export type WhenWrong = Schemas["Trouble"];
export type Incident = Schemas["IncidentOut"];
export type Shown = Schemas["Shown"];
export type Judgement = Schemas["Judgement"];
export type Ticked = Schemas["TickedOut"];
export type Offer = Schemas["Offer"];
export type Choice = Schemas["ChoiceOut"];
export type PowerPlan = Schemas["PowerPlan"];
export type ProtectPlan = Schemas["ProtectPlan"];
export type DrivePlan = Schemas["DrivePlan"];
export type Changes = Schemas["ChangesOut"];
export type Goal = Schemas["GoalOut"];
export type Term = Schemas["TermOut"];
export type Chooser = Schemas["ChooserOut"];
export type Tried = Schemas["Tried"];
export type Sprocket = Schemas["SprocketOut"];
export type Comparison = Schemas["CompareOut"];
export type RunOut = Schemas["RunOut"];
export type Measured = Schemas["MeasuredOut"];
export type Curve = Schemas["Curve"];
export type ChargePlan = Schemas["ChargePlan"];
export type Session = Schemas["SessionOut"];
export type Revision = Schemas["RevisionOut"];
export type Looked = Schemas["LookOut"];
export type Import = Schemas["ImportOut"];
export type Clash = Schemas["ClashOut"];
export type Problem = { path: string; message: string };

/** The one shape of every error. */
export interface ApiError {
  code: string;
  message: string;
  field?: string | null;
  hint?: string | null;
  problems?: Problem[];
  theirs?: Record<string, unknown>;
  version?: number;
  received?: number;
  asked?: Clash[];
}

export class Failed extends Error {
  readonly error: ApiError;
  readonly status: number;
  constructor(error: ApiError, status: number) {
    super(error.message);
    this.error = error;
    this.status = status;
  }
}

const OFFLINE: ApiError = { code: "offline", message: say.noConnectionToThe };

function csrfToken(): string {
  return document.cookie.match(/(?:^|; )csrftoken=([^;]+)/)?.[1] ?? "";
}

/** Keys of what was sent and not acknowledged: the same thing sent again goes under the same key, and makes one. */
const sending = new Map<string, string>();

/** Where a second sending would make a second one. What the outbox sends brings its own key. */
const MAKES = /\/builds$/;

/** Not `randomUUID`: a page on the household's own network has no secure context. */
export const newKey = () =>
  [...crypto.getRandomValues(new Uint8Array(12))].map((byte) => byte.toString(16).padStart(2, "0")).join("");

export const client = createClient<paths>({
  baseUrl: "/",
  fetch: async (request) => {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrfToken());
    const what = request.method === "POST" && MAKES.test(request.url) ? `${request.url} ${await request.clone().text()}` : "";
    if (what) {
      const key = sending.get(what) ?? newKey();
      sending.set(what, key);
      request.headers.set("Idempotency-Key", key);
    }
    try {
      const answer = await fetch(request);
      // Answered is settled, made or refused; only what nobody answered, or a server that failed, may have been made all the same.
      if (answer.status < 500) sending.delete(what);
      return answer;
    } catch {
      throw new Failed(OFFLINE, 0);
    }
  },
});

const failedWith = (status: number, known?: Partial<ApiError>) =>
  new Failed({ code: "failed", message: say.theServerAnsweredTry(status), ...known }, status);

/** The data of an answer, or the error thrown. */
export async function unwrap<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const { data, error, response } = await call;
  if (!response.ok) throw failedWith(response.status, error as Partial<ApiError> | undefined);
  return data as T;
}

/** Sends as it stands, without the client's typing. Brings the answer, or throws what the server says to it. */
async function sendAsIs(method: string, url: string, body: BodyInit, headers: Record<string, string>): Promise<unknown> {
  // An answer that never comes is none.
  const signal = AbortSignal.timeout(30_000);
  let answer: Response;
  try {
    answer = await fetch(
      new Request(new URL(url, window.location.href), {
        method,
        headers: { "X-CSRFToken": csrfToken(), ...headers },
        signal,
        body,
      }),
    );
  } catch {
    throw new Failed(OFFLINE, 0);
  }
  const said: unknown = await answer.json().catch(() => undefined);
  if (!answer.ok) throw failedWith(answer.status, said as Partial<ApiError> | undefined);
  return said;
}

/** Sends something kept on this device under its own key. */
export const sendParcel = (one: { method: string; url: string; body: unknown; key: string }) =>
  sendAsIs(one.method, one.url, JSON.stringify(one.body), { "Content-Type": "application/json", "Idempotency-Key": one.key });

/** Sends a part of a file; how much of it the server has then. */
export async function sendPart(upload: number, offset: number, part: Blob): Promise<number> {
  const headers = { "Content-Type": "application/octet-stream" };
  const said = await sendAsIs("PUT", `/api/uploads/${upload}/parts/${offset}`, part, headers);
  return (said as Schemas["UploadOut"]).received;
}
