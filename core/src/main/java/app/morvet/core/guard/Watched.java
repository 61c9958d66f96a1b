package app.morvet.core.guard;

/** Which subjects a guard stands over. What comes into the estate later and fits is watched from then on. */
public sealed interface Watched {

    /**
     * Whether an interface is one of them.
     *
     * @param component   key of the interface
     * @param application key of its application, empty while unassigned
     */
    boolean matches(String component, String application);

    /** Every interface of the estate. */
    record EveryInterface() implements Watched {
        @Override
        public boolean matches(String component, String application) {
            return true;
        }
    }

    /** @param application key of the application whose interfaces are watched */
    record InterfacesOf(String application) implements Watched {
        @Override
        public boolean matches(String component, String application) {
            return this.application.equals(application);
        }
    }

    /** @param component key of the one interface */
    record OneInterface(String component) implements Watched {
        @Override
        public boolean matches(String component, String application) {
            return this.component.equals(component);
        }
    }
}
