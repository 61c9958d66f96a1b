package app.morvet.ground.base;

import java.util.List;
import java.util.Map;

/** Something that Morvet measures of its own doing, so that guards watch it as they watch all else. */
public interface OwnFigure {
    /**
     * One value now.
     *
     * @param ofNode whether each node has one of its own; else it is the same on all
     */
    record Figure(String measure, String unit, String help, Map<String, String> labels, boolean ofNode, double value) {}

    List<Figure> figures();
}
