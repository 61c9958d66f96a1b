/** Morvet, the web application: one package a feature, in the order in which data passes through. */
@NullMarked
package app.morvet;

import org.jspecify.annotations.NullMarked;
