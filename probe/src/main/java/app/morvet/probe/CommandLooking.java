package app.morvet.probe;

import app.morvet.core.checks.Answer;
import app.morvet.core.checks.Command;
import app.morvet.core.checks.Result;
import app.morvet.core.checks.Verdict;
import java.io.IOException;
import java.util.ArrayList;

/** Runs a command that is allowed here, and looks at its exit code and its output. */
final class CommandLooking implements Looking<Command> {
    private final Permits permits;

    CommandLooking(Permits permits) {
        this.permits = permits;
    }

    @Override
    public Class<Command> of() {
        return Command.class;
    }

    @Override
    public Result at(Command target, Around around, Watch watch) throws IOException, InterruptedException {
        var run = Run.of(permits.command(target.name(), target.arguments()), target.patience());
        if (run.ended())
            return Result.of(
                    java.util.List.of(Verdict.of(
                            "an end within " + app.morvet.core.guard.Spans.words(target.patience()),
                            false,
                            "it was ended, with all that it began")),
                    run.took(),
                    run.output());
        var verdicts = new ArrayList<Verdict>();
        verdicts.add(target.verdict(run.code()));
        var answer = new Answer(0, run.output(), run.took());
        for (var one : target.expectations()) verdicts.add(one.of(answer));
        return Result.of(verdicts, run.took(), run.output())
                .with(Result.Figure.gauge("command_exit_code", "", run.code()));
    }
}
