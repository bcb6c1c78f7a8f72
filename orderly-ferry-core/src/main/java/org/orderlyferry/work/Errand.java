package org.orderlyferry.work;

import java.util.List;
import java.util.ServiceLoader;
import org.apiguardian.api.API;
import org.orderlyferry.problem.UsageException;

/**
 * What another process needs to know to run tasks of a plan, all of them but for the tasks themselves. A plain value, free of
 * secrets.
 *
 * @param kind the site's kind
 * @param site how both ends are opened
 * @param plan without its tasks
 * @param name what the work is called at its target
 * @param system what the source is
 * @param moment by which the source shows what the one who leads the work sees; empty for whatever is there
 * @param lanes among how many the plan's pace is shared out
 */
@API(status = API.Status.INTERNAL)
public record Errand(String kind, String site, WorkPlan plan, String name, String system, String moment, int lanes) {

    static Errand of(WorkSite site, WorkPlan plan, String name, String system, String moment, int lanes) {
        WorkPlan bare = new WorkPlan(plan.order(), plan.state(), plan.tables(), List.of(), List.of());
        return new Errand(site.kind(), site.text(), bare, name, system, moment, lanes);
    }

    /** How both ends are opened. */
    WorkSite opened() {
        for (WorkSite.Reader reader : ServiceLoader.load(WorkSite.Reader.class, Errand.class.getClassLoader())) {
            if (reader.kind().equals(kind)) {
                return reader.read(site);
            }
        }
        throw new UsageException("nobody here knows how to open a " + kind);
    }

    /** The errand in JSON. */
    public String toJson() {
        return WorkJson.write(this);
    }

    /**
     * Reads an errand.
     *
     * @throws UsageException if the text is none
     */
    public static Errand parse(String json) {
        return WorkJson.read(json, Errand.class, "an errand");
    }
}
