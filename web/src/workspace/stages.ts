/** The stages as they stand on the tape. A new one is its folder and a line here. */

import { care } from "../stages/care/stage";
import { drive } from "../stages/drive/stage";
import { hookup } from "../stages/hookup/stage";
import { power } from "../stages/power/stage";
import { protect } from "../stages/protect/stage";
import { prove } from "../stages/prove/stage";
import type { Stage } from "../stages/stage";
import { survey } from "../stages/survey/stage";

export const STAGES: Stage[] = [survey, power, protect, drive, hookup, prove, care];
