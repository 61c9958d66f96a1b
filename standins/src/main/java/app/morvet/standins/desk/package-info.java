/** A ticket desk with an API and a page. */
@NullMarked
package app.morvet.standins.desk;

import org.jspecify.annotations.NullMarked;
