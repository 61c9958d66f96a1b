// Starts what every page has. Each module stands alone and looks only for its own marks in the page.
import { startLive } from "./live.js";
import { startKeys } from "./keys.js";
import { startCurves } from "./curves.js";
import { startBench } from "./bench.js";
import { startForms } from "./forms.js";
import { startOrder } from "./order.js";
import { startPayload } from "./payload.js";
import { startFrame } from "./frame.js";

startFrame();
startForms();
startKeys();
startOrder();
startPayload();
startCurves();
startBench();
startLive();
