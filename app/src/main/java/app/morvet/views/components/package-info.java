/** One component, or some side by side: all that is measured there on one axis of time, and what stands on what. */
@NullMarked
package app.morvet.views.components;

import org.jspecify.annotations.NullMarked;
