using Auxilium.Benchmarks;
using BenchmarkDotNet.Configs;
using BenchmarkDotNet.Jobs;
using BenchmarkDotNet.Running;
using BenchmarkDotNet.Toolchains.InProcess.Emit;

if (args is ["commits"])
{
    await CommitShare.RunAsync();
    return;
}

if (args is ["levelling"])
{
    LevellingGap.Run();
    return;
}

// In one process: nothing is generated and built, so it runs without a network. Methods that are still being compiled in full while they
// run would be measured slower than they are, the first the most.
var config = DefaultConfig.Instance.AddJob(
    Job.ShortRun.WithWarmupCount(10).WithIterationCount(10).WithToolchain(InProcessEmitToolchain.Instance)
);
BenchmarkSwitcher.FromAssembly(typeof(Program).Assembly).Run(args, config);
