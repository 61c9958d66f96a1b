/** The calendar of works that the harbour's own people keep. */
@org.jspecify.annotations.NullMarked
package app.morvet.standins.works;
