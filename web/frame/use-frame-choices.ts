import { FIGURES } from "#contract/operations/figures.ts";
import { keepPreviousData } from "@tanstack/react-query";
import type { FrameAddress } from "#contract/frame-address.ts";
import { useAnswer } from "../client/answer.ts";

/** What the frame sentence can be made of; while a new frame is asked, the former answer stays. */
export const useFrameChoices = (frame: FrameAddress, enabled = true) =>
  useAnswer(FIGURES.frameChoices, { query: frame }, { placeholderData: keepPreviousData, enabled });
