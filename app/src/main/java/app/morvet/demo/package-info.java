/** Sundrava Ferries: the made-up company that the demo shows. */
@NullMarked
package app.morvet.demo;

import org.jspecify.annotations.NullMarked;
