package app.morvet.ground.page;

import java.lang.invoke.MethodHandle;
import java.lang.invoke.MethodHandles;
import java.lang.invoke.MethodType;
import java.lang.reflect.Method;
import java.lang.reflect.Modifier;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.thymeleaf.context.IExpressionContext;
import org.thymeleaf.engine.IterationStatusVar;
import org.thymeleaf.spring6.SpringTemplateEngine;
import org.thymeleaf.spring6.dialect.SpringStandardDialect;
import org.thymeleaf.standard.expression.IStandardVariableExpression;
import org.thymeleaf.standard.expression.IStandardVariableExpressionEvaluator;
import org.thymeleaf.standard.expression.StandardExpressionExecutionContext;

/**
 * Reads the plainest expressions of templates, {@code row.name}, {@code row.words()}, {@code not row.over}, {@code row.left == 0}, {@code
 * row.id == chosen}, {@code #lists.isEmpty(row.notes)} and several such in a row, of the application's own records and of loops. They are
 * four in five of all there are, and half of the time that a long list took went into them: the library asks of each step anew whether it
 * may be read, and cannot compile what begins with a variable of the page. Anything else, and whatever is not found here, is the
 * library's, with its own words of what is wrong.
 */
@Component
class PathExpressions implements IStandardVariableExpressionEvaluator {
    private static final String OURS = "app.morvet.";
    private static final String PATH = "\\w+(?:\\.\\w+(?:\\(\\))?)*";
    private static final Pattern PLAIN = Pattern.compile("(not +|!)?(?:#(lists|strings)\\.isEmpty\\((" + PATH + ")\\)|("
            + PATH + ")(?: *(==|!=|>|<|>=|<=) *(\\d{1,9}|'[^'\\\\]*'|" + PATH + "))?)");

    /** What stands for something else than a variable of the page. */
    private static final Set<String> TAKEN =
            Set.of("true", "false", "null", "param", "session", "application", "request");

    private static final Object NOT_OURS = new Object();
    private static final MethodHandle NONE = MethodHandles.constant(Object.class, NOT_OURS);

    private final IStandardVariableExpressionEvaluator library;
    private final Map<String, Plain> known = new ConcurrentHashMap<>();

    PathExpressions(SpringTemplateEngine engine) {
        library = new SpringStandardDialect().getVariableExpressionEvaluator();
        engine.setDialects(engine.getDialects().stream()
                .map(one -> one.getClass() == SpringStandardDialect.class ? new Dialect(this) : one)
                .collect(Collectors.toSet()));
    }

    /** The library's own, but for who reads expressions: its setter for that refuses. */
    private static final class Dialect extends SpringStandardDialect {
        private final IStandardVariableExpressionEvaluator reader;

        Dialect(IStandardVariableExpressionEvaluator reader) {
            this.reader = reader;
        }

        @Override
        public IStandardVariableExpressionEvaluator getVariableExpressionEvaluator() {
            return reader;
        }
    }

    @Override
    public @Nullable Object evaluate(
            IExpressionContext context,
            IStandardVariableExpression expression,
            StandardExpressionExecutionContext how) {
        if (!expression.getUseSelectionAsRoot()
                && !how.getPerformTypeConversion()
                && !how.getForbidUnsafeExpressionResults()) {
            var plain = known.computeIfAbsent(expression.getExpression(), Plain::read);
            var found = plain.of(context);
            if (found != NOT_OURS) return found;
        }
        return library.evaluate(context, expression, how);
    }

    /** What is found on the page, or {@link #NOT_OURS}. */
    private interface Plain {
        @Nullable
        Object of(IExpressionContext context);

        static Plain read(String text) {
            for (var word : List.of("and", "or")) {
                var parts = text.split(" " + word + " ");
                if (parts.length > 1)
                    return new Several(Arrays.stream(parts).map(Asked::read).toList(), word.equals("or"));
            }
            return Asked.read(text);
        }
    }

    /** @param ends at what the first of them says the others are not asked */
    private record Several(List<Plain> all, boolean ends) implements Plain {
        @Override
        public @Nullable Object of(IExpressionContext context) {
            for (var one : all) {
                var found = one.of(context);
                if (!(found instanceof Boolean is)) return NOT_OURS;
                if (is == ends) return ends;
            }
            return !ends;
        }
    }

    /** {@code row.name}, from a variable of the page on. */
    private record Way(String root, List<Step> steps) {
        /** Null where it begins with what is no variable of the page. */
        static @Nullable Way read(String text) {
            var path = List.of(text.split("\\."));
            if (TAKEN.contains(path.getFirst())
                    || Character.isDigit(path.getFirst().charAt(0))) return null;
            return new Way(path.getFirst(), path.stream().skip(1).map(Step::new).toList());
        }

        @Nullable
        Object of(IExpressionContext context) {
            var value = context.getVariable(root);
            for (var step : steps) {
                if (value == null || value == NOT_OURS) return NOT_OURS;
                value = step.of(value);
            }
            return value;
        }
    }

    /**
     * @param empty    {@code lists} or {@code strings} where it is asked whether it is; or empty
     * @param comparer between what is found and {@code other}, or empty
     * @param other    a Long, a String, a {@link Way}, or null for null
     */
    private record Asked(boolean denied, String empty, Way way, String comparer, @Nullable Object other)
            implements Plain {
        static Plain read(String text) {
            var parts = PLAIN.matcher(text.strip());
            if (!parts.matches()) return context -> NOT_OURS;
            var way = Way.read(parts.group(3) != null ? parts.group(3) : parts.group(4));
            var comparer = Objects.requireNonNullElse(parts.group(5), "");
            var written = Objects.requireNonNullElse(parts.group(6), "null");
            boolean denied = parts.group(1) != null;
            Object other = written.startsWith("'")
                    ? written.substring(1, written.length() - 1)
                    : written.matches("\\d+") ? Long.valueOf(written) : Way.read(written);
            // What is denied and compared at once is a matter of precedence, and an order needs numbers.
            if (way == null
                    || other == null && !written.equals("null")
                    || denied && !comparer.isEmpty()
                    || comparer.matches("[<>].*") && !(other instanceof Long)) return context -> NOT_OURS;
            return new Asked(denied, Objects.requireNonNullElse(parts.group(2), ""), way, comparer, other);
        }

        @Override
        public @Nullable Object of(IExpressionContext context) {
            var value = way.of(context);
            if (value == NOT_OURS) return NOT_OURS;
            if (!empty.isEmpty()) value = isEmpty(value);
            else if (!comparer.isEmpty()) return compared(value, other instanceof Way it ? it.of(context) : other);
            if (!denied) return value;
            return value instanceof Boolean is ? (Object) !is : NOT_OURS;
        }

        private Object isEmpty(@Nullable Object value) {
            return switch (value) {
                case null -> true;
                case String text when empty.equals("strings") -> text.isEmpty();
                case Collection<?> some when empty.equals("lists") -> some.isEmpty();
                default -> NOT_OURS;
            };
        }

        private Object compared(@Nullable Object value, @Nullable Object to) {
            if (to == NOT_OURS) return NOT_OURS;
            if (value == null || to == null) {
                if (comparer.equals("==")) return value == to;
                return comparer.equals("!=") ? (Object) (value != to) : NOT_OURS;
            }
            if (value instanceof String text && to instanceof String) return text.equals(to) == comparer.equals("==");
            if (!isWhole(value) || !isWhole(to)) return NOT_OURS;
            int order = Long.compare(((Number) value).longValue(), ((Number) to).longValue());
            return switch (comparer) {
                case "==" -> order == 0;
                case "!=" -> order != 0;
                case ">" -> order > 0;
                case "<" -> order < 0;
                case ">=" -> order >= 0;
                default -> order <= 0;
            };
        }

        private static boolean isWhole(Object value) {
            return value instanceof Integer || value instanceof Long;
        }
    }

    /** One name of a path, looked up once for each type on which it is asked. */
    private static final class Step {
        private final String name;
        private final boolean called;
        private final ClassValue<MethodHandle> readers = new ClassValue<>() {
            @Override
            protected MethodHandle computeValue(Class<?> type) {
                return reader(type);
            }
        };

        Step(String written) {
            called = written.endsWith("()");
            name = called ? written.substring(0, written.length() - 2) : written;
        }

        @Nullable
        Object of(Object value) {
            try {
                return readers.get(value.getClass()).invokeExact(value);
            } catch (Throwable itsOwn) {
                // The library says it with the place in the template.
                return NOT_OURS;
            }
        }

        private MethodHandle reader(Class<?> type) {
            var none = MethodHandles.dropArguments(NONE, 0, Object.class);
            boolean loop = type == IterationStatusVar.class && !called;
            if (!loop && (!type.getName().startsWith(OURS) || !(called || component(type)))) return none;
            try {
                var method = loop ? ofLoop() : type.getMethod(name);
                if (Modifier.isStatic(method.getModifiers()) || method.getReturnType() == void.class) return none;
                return MethodHandles.privateLookupIn(method.getDeclaringClass(), MethodHandles.lookup())
                        .unreflect(method)
                        .asType(MethodType.methodType(Object.class, Object.class));
            } catch (ReflectiveOperationException notThere) {
                return none;
            }
        }

        /** {@code first} or {@code last} of what goes through a list. */
        private Method ofLoop() throws NoSuchMethodException {
            return IterationStatusVar.class.getMethod("is" + Character.toUpperCase(name.charAt(0)) + name.substring(1));
        }

        /** A component of a record, unless a getter of that name would come first. */
        private boolean component(Class<?> type) {
            if (!type.isRecord()) return false;
            var upper = Character.toUpperCase(name.charAt(0)) + name.substring(1);
            return Arrays.stream(type.getRecordComponents())
                            .anyMatch(it -> it.getName().equals(name))
                    && Stream.of(type.getMethods())
                            .noneMatch(it -> it.getParameterCount() == 0
                                    && (it.getName().equals("get" + upper)
                                            || it.getName().equals("is" + upper)));
        }
    }
}
