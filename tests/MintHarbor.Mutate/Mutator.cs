using Microsoft.CodeAnalysis;
using Microsoft.CodeAnalysis.CSharp;
using Microsoft.CodeAnalysis.CSharp.Syntax;

namespace MintHarbor.Mutate;

/// <summary>One change of one expression.</summary>
public sealed record Mutant(int Id, string File, int Line, string Was, string Becomes);

/// <summary>Rewrites a file so that it holds all its mutants at once, each behind a switch that is read when the program starts: one build serves
/// every mutant.</summary>
internal sealed class Mutator(string file, Func<int> next, IReadOnlySet<int> left) : CSharpSyntaxRewriter
{
    public List<Mutant> Mutants { get; } = [];

    // A limit met to the last bit is no case among real numbers, so < doesn't become <=: it turns round.
    private static readonly Dictionary<SyntaxKind, SyntaxKind> Swaps = new()
    {
        [SyntaxKind.LessThanExpression] = SyntaxKind.GreaterThanExpression,
        [SyntaxKind.LessThanOrEqualExpression] = SyntaxKind.GreaterThanOrEqualExpression,
        [SyntaxKind.GreaterThanExpression] = SyntaxKind.LessThanExpression,
        [SyntaxKind.GreaterThanOrEqualExpression] = SyntaxKind.LessThanOrEqualExpression,
        [SyntaxKind.EqualsExpression] = SyntaxKind.NotEqualsExpression,
        [SyntaxKind.NotEqualsExpression] = SyntaxKind.EqualsExpression,
        [SyntaxKind.LogicalAndExpression] = SyntaxKind.LogicalOrExpression,
        [SyntaxKind.LogicalOrExpression] = SyntaxKind.LogicalAndExpression,
        [SyntaxKind.AddExpression] = SyntaxKind.SubtractExpression,
        [SyntaxKind.SubtractExpression] = SyntaxKind.AddExpression,
        [SyntaxKind.MultiplyExpression] = SyntaxKind.DivideExpression,
        [SyntaxKind.DivideExpression] = SyntaxKind.MultiplyExpression,
    };

    public override SyntaxNode? VisitBinaryExpression(BinaryExpressionSyntax node)
    {
        var inner = (BinaryExpressionSyntax)base.VisitBinaryExpression(node)!;
        return Swaps.TryGetValue(node.Kind(), out var kind) && !Text(node)
            ? Switch(
                node,
                inner,
                SyntaxFactory.BinaryExpression(kind, inner.Left, inner.Right),
                SyntaxFactory.BinaryExpression(kind, node.Left, node.Right)
            )
            : inner;
    }

    public override SyntaxNode? VisitConditionalExpression(ConditionalExpressionSyntax node)
    {
        var inner = (ConditionalExpressionSyntax)base.VisitConditionalExpression(node)!;
        return Switch(
            node,
            inner,
            inner.WithWhenTrue(inner.WhenFalse).WithWhenFalse(inner.WhenTrue),
            node.WithWhenTrue(node.WhenFalse).WithWhenFalse(node.WhenTrue)
        );
    }

    public override SyntaxNode? VisitPrefixUnaryExpression(PrefixUnaryExpressionSyntax node)
    {
        var inner = (PrefixUnaryExpressionSyntax)base.VisitPrefixUnaryExpression(node)!;
        return
            node.Kind() is SyntaxKind.LogicalNotExpression or SyntaxKind.UnaryMinusExpression && node.Operand is not LiteralExpressionSyntax
            ? Switch(node, inner, inner.Operand, node.Operand)
            : inner;
    }

    public override SyntaxNode? VisitInvocationExpression(InvocationExpressionSyntax node)
    {
        var inner = (InvocationExpressionSyntax)base.VisitInvocationExpression(node)!;
        if (node.Expression is not MemberAccessExpressionSyntax { Name: IdentifierNameSyntax name } call)
            return inner;
        var other = name.Identifier.Text switch
        {
            "Min" => "Max",
            "Max" => "Min",
            "Any" => "All",
            "All" => "Any",
            "MinBy" => "MaxBy",
            "MaxBy" => "MinBy",
            _ => null,
        };
        if (other is null || node.ArgumentList.Arguments.Count == 0)
            return inner;
        var swapped = inner.WithExpression(((MemberAccessExpressionSyntax)inner.Expression).WithName(SyntaxFactory.IdentifierName(other)));
        return Switch(node, inner, swapped, node.WithExpression(call.WithName(SyntaxFactory.IdentifierName(other))));
    }

    // What must be known when it is compiled can't be switched.
    public override SyntaxNode? VisitAttributeList(AttributeListSyntax node) => node;

    public override SyntaxNode? VisitFieldDeclaration(FieldDeclarationSyntax node) =>
        node.Modifiers.Any(SyntaxKind.ConstKeyword) ? node : base.VisitFieldDeclaration(node);

    public override SyntaxNode? VisitLocalDeclarationStatement(LocalDeclarationStatementSyntax node) =>
        node.IsConst ? node : base.VisitLocalDeclarationStatement(node);

    public override SyntaxNode? VisitParameter(ParameterSyntax node) => node;

    public override SyntaxNode? VisitIsPatternExpression(IsPatternExpressionSyntax node) => node;

    public override SyntaxNode? VisitSwitchExpressionArm(SwitchExpressionArmSyntax node) =>
        node.WithExpression((ExpressionSyntax)Visit(node.Expression)!);

    public override SyntaxNode? VisitCaseSwitchLabel(CaseSwitchLabelSyntax node) => node;

    public override SyntaxNode? VisitCasePatternSwitchLabel(CasePatternSwitchLabelSyntax node) => node;

    public override SyntaxNode? VisitThrowExpression(ThrowExpressionSyntax node) => node;

    public override SyntaxNode? VisitThrowStatement(ThrowStatementSyntax node) => node;

    public override SyntaxNode? VisitInterpolation(InterpolationSyntax node) => node;

    private static bool Text(BinaryExpressionSyntax node) =>
        node.DescendantNodesAndSelf().Any(n => n.IsKind(SyntaxKind.StringLiteralExpression) || n is InterpolatedStringExpressionSyntax)
        && node.Kind() is SyntaxKind.AddExpression;

    /// <summary>Without comments, which would swallow what follows on the one line.</summary>
    private static ExpressionSyntax Bare(ExpressionSyntax node) =>
        node.ReplaceTrivia(
                node.DescendantTrivia().Where(t => t.Kind() is SyntaxKind.SingleLineCommentTrivia or SyntaxKind.MultiLineCommentTrivia),
                (_, _) => default
            )
            .WithoutTrivia();

    private SyntaxNode Switch(ExpressionSyntax at, ExpressionSyntax original, ExpressionSyntax mutated, ExpressionSyntax shown)
    {
        var id = next();
        if (!left.Contains(id))
            return original;
        Mutants.Add(
            new(
                id,
                file,
                at.GetLocation().GetLineSpan().StartLinePosition.Line + 1,
                at.NormalizeWhitespace().ToString(),
                shown.NormalizeWhitespace().ToString()
            )
        );
        var asked = SyntaxFactory.ParseExpression($"global::MintHarbor.Core.Mutation.Is({id})");
        return SyntaxFactory
            .ParenthesizedExpression(
                SyntaxFactory.ConditionalExpression(
                    asked,
                    SyntaxFactory.ParenthesizedExpression(Bare(mutated)),
                    SyntaxFactory.ParenthesizedExpression(Bare(original))
                )
            )
            .NormalizeWhitespace(eol: " ", indentation: "")
            .WithTriviaFrom(original);
    }
}
