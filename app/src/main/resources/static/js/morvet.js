// Starts what every page has. Each module stands alone and looks only for its own marks in the page.
import { startLive } from "./live.js";
import { startKeys } from "./keys.js";
import { startCurves } from "./curves.js";
import { startBench } from "./bench.js";
import { startForms } from "./forms.js";
import { startOrder } from "./order.js";
import { startPayload } from "./payload.js";
import { startFrame } from "./frame.js";
import { startMany } from "./many.js";
import { startTime } from "./time.js";
import { startMeasured } from "./measured.js";

startFrame();
startForms();
startKeys();
startMany();
startOrder();
startPayload();
startCurves();
startTime();
startMeasured();
startBench();
startLive();
