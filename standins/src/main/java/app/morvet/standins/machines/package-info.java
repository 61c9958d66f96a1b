/** The simulated hosts, instances, queues and licences, and the collectors that tell of them in OpenMetrics. */
@NullMarked
package app.morvet.standins.machines;

import org.jspecify.annotations.NullMarked;
