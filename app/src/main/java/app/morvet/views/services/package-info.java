/** The Services place: what runs and what does not, since when, and what it was before. */
@NullMarked
package app.morvet.views.services;

import org.jspecify.annotations.NullMarked;
