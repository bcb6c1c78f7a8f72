package org.orderlyferry.place;

/**
 * How tables are taken into a target.
 *
 * @param mode what is done with tables that are there already
 * @param lanes how many writers work at once at most
 */
public record LoadSettings(LoadMode mode, int lanes) {

    public static final LoadSettings DEFAULT = new LoadSettings(LoadMode.CREATE, 1);

    public LoadSettings {
        if (lanes < 1) {
            throw new IllegalArgumentException("at least one writer is needed");
        }
    }

    public LoadSettings withMode(LoadMode other) {
        return new LoadSettings(other, lanes);
    }

    public LoadSettings withLanes(int other) {
        return new LoadSettings(mode, other);
    }
}
