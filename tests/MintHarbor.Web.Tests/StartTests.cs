using System.Net;
using System.Net.Sockets;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>What ./harbor says when it can't start: one clear line and what to do.</summary>
public sealed class StartTests
{
    private static (int Code, string Said) Harbor(params string[] args)
    {
        var (code, said, err) = Checkout.Run("harbor", args);
        return (code, (err + said).Trim());
    }

    [Fact]
    public void A_port_in_use_names_another()
    {
        using var taken = new TcpListener(IPAddress.Loopback, 0);
        taken.Start();
        var port = ((IPEndPoint)taken.LocalEndpoint).Port;
        var (code, said) = Harbor("start", "--port", $"{port}");
        Assert.Equal(1, code);
        Assert.Equal($"harbor: port {port} is in use. Choose another:  ./harbor start --port {port + 1}", said);
    }

    [Theory]
    [InlineData("--port", "zero"), InlineData("--port", "70000"), InlineData("--prot", "5000")]
    public void A_wrong_option_says_what_is_accepted(string option, string value)
    {
        var (code, said) = Harbor("start", option, value);
        Assert.Equal(1, code);
        Assert.Single(said.Split('\n'));
        Assert.Contains("--port", said);
    }

    [Fact]
    public void Without_a_verb_the_verbs_are_listed()
    {
        var (code, said) = Harbor();
        Assert.Equal(0, code);
        foreach (var verb in new[] { "start", "test", "core", "bench", "soak", "backup", "restore", "outbox", "reset" })
            Assert.Contains($"./harbor {verb}", said);
        Assert.Equal(2, Harbor("dance").Code);
    }
}
