/** The integration hub: carries made-up traffic and reports to Morvet what became of it. */
@NullMarked
package app.morvet.standins.hub;

import org.jspecify.annotations.NullMarked;
